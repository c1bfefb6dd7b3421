import { useState } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import { META, meta } from '#core/smf/events.ts';
import { quarterTicks, type MeterMap } from '#core/timing/meter-map.ts';
import type { useStep } from '../../api/queries.ts';
import { EventForm, type Typed } from './event-form.tsx';
import { awaitEvent } from './kept-events.ts';
import { insertable, newFields, partsFrom, type Insertable } from './fields.ts';
import { usePreferences } from '../../state/preferences.ts';
import { Choice, asSaid } from '../../fields/choice.tsx';

interface Props {
  readonly song: SongView;
  readonly tracks: readonly TrackView[];
  readonly meters: MeterMap;
  /** Where it is proposed: the place and the track in focus. */
  readonly at: string;
  readonly track: string;
  readonly step: ReturnType<typeof useStep>;
  readonly close: () => void;
}

/** Kinds that are the song's own go into its first track, wherever one stands. */
const songOwn: ReadonlySet<number> = new Set([
  meta.tempo,
  meta.timeSignature,
  meta.marker,
  meta.cuePoint,
  meta.keySignature,
]);

/** A new event: what it is, in which track, where, with which values. */
export function InsertEvent({ song, tracks, meters, at, track, step, close }: Props) {
  const [kind, setKind] = useState<Insertable>('Note');
  const [into, setInto] = useState(track);
  const middleC = usePreferences((p) => p.middleC);
  const [status, type] = insertable[kind];
  const isSongs = status === META && songOwn.has(type);
  const target = isSongs ? song.tracks[0]!.id : into;
  const channel = song.tracks.find((t) => t.id === target)?.channels[0] ?? 1;
  const done = ({ atTick, channel: on, fields }: Typed): string | undefined => {
    const { encoding } = song;
    const parts = partsFrom(status, type, fields, new Uint8Array(0), { encoding, middleC });
    if ('wrong' in parts) return parts.wrong;
    const whole = status < 0xf0 ? status | ((on ?? 1) - 1) : status;
    const first = status === META ? type : (parts.data1 ?? 0);
    awaitEvent(song, { track: target, atTick, is: `${whole} ${first}` });
    const data1 = status === META ? { data1: type } : {};
    const settings = { track: target, atTick, status: whole, ...data1, ...parts };
    step.mutate({ operation: 'events.insert', settings }, { onSuccess: close });
    return undefined;
  };
  return (
    <section
      aria-label="Insert an event"
      className="mb-1 flex flex-wrap items-center gap-2 rounded border border-line bg-sheet px-2 py-1"
    >
      <Choice
        label="Kind of event"
        hidden
        value={kind}
        options={asSaid(Object.keys(insertable) as Insertable[])}
        set={setKind}
      />
      <Choice
        label="in"
        className="max-w-[160px]"
        value={target}
        disabled={isSongs}
        title={isSongs ? 'It belongs to the song and stands in its first track' : undefined}
        options={(isSongs ? song.tracks.slice(0, 1) : tracks).map(
          (t) => [t.id, t.name || `track ${song.tracks.indexOf(t) + 1}`] as const,
        )}
        set={setInto}
      />
      <EventForm
        key={`${kind} ${target}`}
        meters={meters}
        position={at}
        channel={status < 0xf0 ? channel : undefined}
        fields={newFields(kind, Math.round(quarterTicks(song.division)), middleC)}
        verb="Insert"
        done={done}
        cancel={close}
      />
    </section>
  );
}
