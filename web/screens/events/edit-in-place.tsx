import type { SongView } from '#contracts/songs.ts';
import { META, meta, type Events } from '#core/smf/events.ts';
import { usePreferences } from '../../state/preferences.ts';
import { EventForm, type Typed } from './event-form.tsx';
import type { Wording } from './use-wording.ts';
import { fieldsOfRow } from './fields.ts';

/** The form over the row that it edits; a row that is scrolled away has it at the edge. */
export function EditInPlace({
  song,
  events,
  row,
  wording,
  top,
  done,
  cancel,
}: {
  song: SongView;
  events: Events;
  row: number;
  wording: Wording;
  top: number;
  done: (typed: Typed) => string | undefined;
  cancel: () => void;
}) {
  const middleC = usePreferences((p) => p.middleC);
  return (
    <section
      aria-label="Edit the event"
      className="absolute inset-x-0 z-10 flex min-h-[30px] items-center rounded border border-amber bg-amber-soft px-2 py-0.5 shadow"
      style={{ top: Math.max(0, top - 4) }}
    >
      <EventForm
        key={`${row} ${events.count}`}
        meters={wording.meters}
        position={wording.position(events.atTick[row]!)}
        channel={events.status[row]! < 0xf0 ? (events.status[row]! & 15) + 1 : undefined}
        fields={
          isEndOfTrack(events, row)
            ? []
            : fieldsOfRow(events, row, { encoding: song.encoding, middleC })
        }
        verb="Keep"
        done={done}
        cancel={cancel}
      />
    </section>
  );
}

const isEndOfTrack = (events: Events, row: number): boolean =>
  events.status[row] === META && events.data1[row] === meta.endOfTrack;
