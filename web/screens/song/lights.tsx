import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import { firstProgram } from '#core/song/played-by.ts';
import { keyWords } from '#core/song/event-words.ts';
import { fretting, onOwnString, tuningOf } from '#core/playing/fretting.ts';
import { keyName } from '#core/units/units.ts';
import type { Events } from '#core/smf/events.ts';
import { Canvas, type Draw } from '../../drawing/canvas.tsx';
import { drawKeys, drawPads, drawStrings, keysShown } from '../../drawing/lights.ts';
import { watch } from '../../sound/listen.ts';
import { onNotesHeard } from '../../sound/notes-heard.ts';
import { useHeardTracks } from '../../state/hearing.ts';
import { usePlaying } from '../../state/playing.ts';
import { usePreferences } from '../../state/preferences.ts';
import { useScope } from '../../state/scope.ts';
import { useTrackEvents } from '../../tracks/track-events.ts';

/** What sounds of one part, on what plays it: keys, the pads of a kit, or strings. */
export function Lights({ song }: { song: SongView }) {
  const track = useLitTrack(song);
  const shown = useMemo(() => (track ? [track] : []), [track]);
  const { events } = useTrackEvents(shown);
  const index = track ? song.tracks.indexOf(track) : undefined;
  useEffect(() => {
    watch(index);
    return () => watch(undefined);
  }, [index]);
  if (!track) return <Said>No part with notes to be lit.</Said>;
  const name = track.name || `track ${index! + 1}`;
  return (
    <section
      aria-label="Lights"
      className="grid grid-cols-[120px_minmax(0,1fr)] items-center gap-2 border-b border-line px-3 py-1.5"
    >
      <p className="truncate text-[12.5px]" title={name}>
        {name}
      </p>
      {events?.[0] && <Lit key={track.id} track={track} events={events[0]} name={name} />}
    </section>
  );
}

const Said = ({ children }: { children: string }) => (
  <p className="border-b border-line px-3 py-1.5 text-faint">{children}</p>
);

/** The first part that is selected, else one that is heard alone, else the first that has notes. */
function useLitTrack(song: SongView): TrackView | undefined {
  const selected = useScope((s) => s.tracks);
  const { alone } = useHeardTracks(song);
  return useMemo(() => {
    const parts = song.tracks.filter((t) => t.notes > 0);
    return (
      parts.find((t) => selected.has(t.id)) ?? parts.find((t) => alone.includes(t.id)) ?? parts[0]
    );
  }, [song.tracks, selected, alone]);
}

/** Beyond these many channels a part is no instrument with strings. */
const fewestStrings = 4;

function Lit({ track, events, name }: { track: TrackView; events: Events; name: string }) {
  const middleC = usePreferences((p) => p.middleC);
  const heard = useHeardKeys();
  const keys = useMemo(() => [...new Set(heard.map((h) => h.key))], [heard]);
  const program = useMemo(() => firstProgram(events)?.program, [events]);
  const played = useMemo(() => keysPlayed(events), [events]);
  const drums = track.channel === 10;
  const tuning = drums || program === undefined ? undefined : tuningOf(program);
  const draw = useCallback<Draw>(
    (c, width, height, inks) => {
      const board = { width, height, inks };
      const lit = new Set(keys);
      const say = (key: number): string => keyName(key, middleC);
      if (drums) drawPads(c, board, played, lit, (key) => keyWords(key, 9, middleC));
      else if (tuning) {
        const own = track.channels.length >= fewestStrings;
        const channels = track.channels.map((ch) => ch - 1);
        const stopped = own
          ? heard.flatMap((h) => onOwnString(h.key, h.channel, channels, tuning) ?? [])
          : fretting(keys, tuning);
        drawStrings(c, board, tuning, stopped, say);
      } else drawKeys(c, board, keysShown(played[0] ?? 60, played.at(-1) ?? 60), lit, say);
    },
    [keys, heard, played, drums, tuning, track.channels, middleC],
  );
  const say = (key: number): string => keyWords(key, drums ? 9 : 0, middleC);
  return (
    <>
      <Canvas draw={draw} className="h-[62px] w-full" label={`What sounds of ${name}`} />
      <span className="sr-only" data-testid="lit">
        {keys.map(say).join(' ')}
      </span>
    </>
  );
}

function keysPlayed({ status, data1, data2, count }: Events): number[] {
  const keys = new Set<number>();
  for (let i = 0; i < count; i++) if (status[i]! >> 4 === 9 && data2[i]! > 0) keys.add(data1[i]!);
  return [...keys].sort((a, b) => a - b);
}

interface HeardKey {
  readonly channel: number;
  readonly key: number;
}

/** A note is seen for so many milliseconds, however short it is. */
const leastSeen = 110;

/** The keys that sound now. */
function useHeardKeys(): readonly HeardKey[] {
  const [heard, setHeard] = useState<readonly HeardKey[]>([]);
  const begun = useRef(new Map<number, number>());
  const silent = usePlaying((s) => s.state === 'silent');
  useEffect(() => {
    const since = begun.current;
    const show = (): void =>
      setHeard([...since.keys()].map((n) => ({ channel: n >> 7, key: n & 127 })));
    const stop = onNotesHeard(({ channel, key, velocity }) => {
      const note = (channel << 7) | key;
      const now = performance.now();
      if (velocity > 0) {
        since.delete(note);
        since.set(note, now);
        return show();
      }
      const began = since.get(note);
      const end = (): void => {
        if (since.get(note) === began && since.delete(note)) show();
      };
      const left = began === undefined ? 0 : began + leastSeen - now;
      if (left > 0) setTimeout(end, left);
      else end();
    });
    return () => {
      stop();
      since.clear();
      setHeard([]);
    };
  }, [silent]);
  return heard;
}
