import { useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { barTick, meterAt, parsePosition, positionAt, positionText, tickOf, type MeterMap } from '#core/timing/meter-map.ts';
import { useStep } from '../../api/queries.ts';
import { Button } from '../../components/button.tsx';
import { marksOf, type MarkRow } from './map-rows.ts';

const box = 'rounded border border-line bg-sheet px-1.5 py-0.5';

/** A marker, cue point, text or section edited in its row: name, place, kind, and whether it is sent. */
export function MarkEditor({ song, meters, mark, done }: { song: SongView; meters: MeterMap; mark: MarkRow; done: () => void }) {
  const step = useStep(song.id, song.revision);
  const said = (tick: number): string => positionText(positionAt(meters, tick));
  const [text, setText] = useState(mark.text);
  const [kind, setKind] = useState(mark.kind);
  const [place, setPlace] = useState(said(mark.atTick));
  const [end, setEnd] = useState(mark.toTick === undefined ? '' : said(mark.toTick));
  const [travels, setTravels] = useState(mark.travels);
  const section = mark.kind === 'section';
  const at = tickIn(meters, place);
  const to = section ? tickIn(meters, end) : undefined;
  const wrong = text.trim() === '' ? 'It needs a name.' : at === undefined ? `${place} is no place of this song.` : section && (to === undefined || to <= at) ? 'A section ends behind its beginning.' : undefined;
  const save = (): void => {
    if (wrong || at === undefined) return;
    const come = marksOf({ kind, text: text.trim(), atTick: at, ...(to === undefined ? {} : { toTick: to }) }).map((m) => ({ ...m, travels }));
    const gone = marksOf(mark).map((m) => ({ ...m, ...(mark.track ? { track: mark.track } : {}) }));
    step.mutate({ operation: 'timing.marks', settings: { gone, come, ...(mark.track ? { into: mark.track } : {}) } }, { onSuccess: done });
  };
  const toBar = (): void => {
    if (at !== undefined) setPlace(said(nearestBar(meters, at)));
    if (to !== undefined) setEnd(said(nearestBar(meters, to)));
  };
  return (
    <form
      aria-label={`Change ${mark.kind} ${mark.text}`}
      className="flex flex-wrap items-center gap-2 py-1"
      onSubmit={(e) => {
        e.preventDefault();
        save();
      }}
      onKeyDown={(e) => e.key === 'Escape' && done()}
    >
      <input autoFocus aria-label="Name" className={`${box} w-[190px]`} maxLength={200} value={text} onChange={(e) => setText(e.target.value)} />
      {!section && (
        <select aria-label="Kind" className={box} value={kind} onChange={(e) => setKind(e.target.value as MarkRow['kind'])}>
          <option value="marker">Marker</option>
          <option value="cue point">Cue point</option>
          <option value="text">Text</option>
        </select>
      )}
      <PlaceField label={section ? 'From' : 'Place'} value={place} set={setPlace} meters={meters} />
      {section && <PlaceField label="Until" value={end} set={setEnd} meters={meters} />}
      <Button type="button" onClick={toBar} title="To the nearest bar line">
        To the bar
      </Button>
      <label className="flex items-center gap-1">
        <input type="checkbox" checked={travels} onChange={(e) => setTravels(e.target.checked)} /> sent
      </label>
      <Button type="submit" kind="next" disabled={wrong !== undefined || step.isPending}>
        Keep
      </Button>
      <Button type="button" onClick={done}>
        Not now
      </Button>
      {wrong && <span className="text-[12px] text-rust">{wrong}</span>}
    </form>
  );
}

const tickIn = (meters: MeterMap, text: string): number | undefined => ((p) => p && tickOf(meters, p))(parsePosition(text));

function nearestBar(meters: MeterMap, tick: number): number {
  const { bar } = positionAt(meters, tick);
  const [before, after] = [barTick(meters, bar), barTick(meters, bar + 1)];
  return tick - before <= after - tick ? before : after;
}

/** A place that is typed, or stepped by beats with the arrow keys, by bars with Shift. */
function PlaceField({ label, value, set, meters }: { label: string; value: string; set: (text: string) => void; meters: MeterMap }) {
  const nudge = (way: number, whole: boolean): void => {
    const at = tickIn(meters, value);
    if (at === undefined) return;
    const { barTicks, beatTicks } = meterAt(meters, at);
    set(positionText(positionAt(meters, Math.max(0, Math.round(at + way * (whole ? barTicks : beatTicks))))));
  };
  return (
    <label className="flex items-center gap-1">
      <span className="text-faint">{label}</span>
      <input
        className={`${box} num w-[92px]`}
        aria-invalid={tickIn(meters, value) === undefined}
        value={value}
        title="Bar.beat.tick; arrow keys move it by a beat, with Shift by a bar"
        onChange={(e) => set(e.target.value)}
        onKeyDown={(e) => {
          const way = { ArrowUp: 1, ArrowDown: -1 }[e.key];
          if (way === undefined) return;
          e.preventDefault();
          nudge(way, e.shiftKey);
        }}
      />
    </label>
  );
}
