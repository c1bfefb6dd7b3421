import { asHeard } from '#core/playing/as-heard.ts';
import { beatsOf } from '#core/playing/beats.ts';
import { soundsNeeded } from '#core/playing/needs.ts';
import { portsOf } from '#core/playing/ports.ts';
import { sentSong } from '#core/song/lanes.ts';
import type { Song } from '#core/song/song.ts';
import { timingOf } from '#core/song/timing-of.ts';
import { tempoMap } from '#core/timing/tempo-map.ts';
import type { PlayedSong } from '../sound/messages.ts';

/** What is heard of a song, or of one of its tracks, with its time and the sounds that it plays. */
export function playedSong(song: Song, track?: string): PlayedSong {
  const sent = sentSong(song);
  const tracks = sent.tracks.filter((t) => track === undefined || t.id === track).map(asHeard);
  const { tempos, meters, endTick } = timingOf(sent);
  const { division } = song;
  return {
    tracks,
    tempos,
    division,
    beats: beatsOf(meters, tempoMap(tempos, division), { division, endTick }),
    needs: soundsNeeded(tracks, portsOf(tracks)),
  };
}
