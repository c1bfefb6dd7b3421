import { channelsOf } from '../../song/song.ts';
import { on, type Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

export function severalChannels({ parts }: LookedSong): Noticed[] {
  return parts
    .map((t) => ({ t, channels: channelsOf(t.track.events).length }))
    .filter(({ channels }) => channels > 1)
    .map(({ t, channels }) => ({
      title: `${t.label} plays on ${channels} channels`,
      why: 'Most programs give a track one instrument: the parts on its other channels would play on the wrong one.',
      tracks: [t.id], count: channels, sure: 'certain',
      settle: [{ title: 'Give each channel its track', operation: 'tracks.split-by-channel', settings: { names: true }, scope: on(t.id) }],
    }));
}
