import { Pencil, X } from 'lucide-react';
import { useMemo, useState } from 'react';
import { keySignatureText } from '#core/song/key-names.ts';
import { meterAt, meterMap, positionAt, positionText, type Position } from '#core/timing/meter-map.ts';
import { tempoMap, ticksToSeconds } from '#core/timing/tempo-map.ts';
import type { SongView } from '#contracts/songs.ts';
import { useStep, type StepAsked } from '../../api/queries.ts';
import { Button } from '../../components/button.tsx';
import { bpmText, count, duration } from '../../components/text.ts';
import { useScope } from '../../state/scope.ts';
import { usePreparedStep, type Prepared } from '../../state/step.ts';

type Kind = 'tempo' | 'meter' | 'key' | 'marker' | 'cue point';

interface Row {
  readonly kind: Kind;
  readonly atTick: number;
  readonly place: Position;
  readonly says: string;
  readonly beside?: string;
  readonly edit: Prepared;
  readonly remove: StepAsked;
}

const kindNames: Readonly<Record<Kind, string>> = { tempo: 'Tempo', meter: 'Meter', key: 'Key', marker: 'Marker', 'cue point': 'Cue point' };
const addings: readonly (readonly [string, string])[] = [['Tempo', 'timing.tempo'], ['Meter', 'timing.meter'], ['Key', 'timing.key'], ['Marker', 'timing.marker']];
/** Rows that are shown; the map of a shredded ramp is thinned first. */
const mostRows = 600;

/** Every point of the map, in the order of the bars. */
export function MapTable({ song }: { song: SongView }) {
  const [kind, setKind] = useState<Kind | 'all'>('all');
  const bars = useScope((s) => s.bars);
  const step = useStep(song.id, song.revision);
  const { prepare } = usePreparedStep();
  const rows = useMemo(() => rowsOf(song), [song]);
  const shown = rows.filter((r) => (kind === 'all' || r.kind === kind) && (!bars || (r.place.bar >= bars.from && r.place.bar <= bars.to)));
  const tempo = useMemo(() => tempoMap(song.timing.tempos.map((t) => ({ atTick: t.atTick, tempo: t.microsecondsPerQuarter })), song.division), [song]);
  return (
    <>
      <div className="flex flex-wrap items-center gap-2 border-b border-line px-4 py-1.5">
        <h2 className="text-[16px] font-semibold">Timing</h2>
        <span className="text-faint">
          {count(song.timing.bars, 'bar')}, {duration(song.timing.seconds)}, {song.divisionText}
        </span>
        <label className="ml-auto flex items-center gap-1.5">
          Show
          <select className="rounded border border-line bg-sheet px-1.5 py-0.5" value={kind} onChange={(e) => setKind(e.target.value as Kind)}>
            <option value="all">everything</option>
            {Object.entries(kindNames).map(([k, name]) => (
              <option key={k} value={k}>
                {name}
              </option>
            ))}
          </select>
        </label>
        {addings.map(([name, operation]) => (
          <Button key={name} onClick={() => prepare({ operation, settings: { bar: bars?.from ?? 1 }, bars: 'all' })}>
            + {name}
          </Button>
        ))}
      </div>
      <div className="min-h-0 flex-1 overflow-auto px-4">
        <table className="w-full max-w-[820px] border-collapse">
          <thead className="sticky top-0 bg-paper text-left text-[11.5px] text-faint">
            <tr>
              {['Bar.beat.tick', 'Time', 'What', 'Value', ''].map((h) => (
                <th key={h} scope="col" className="border-b border-line py-1 pr-4 font-normal">
                  {h || <span className="sr-only">Change</span>}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.slice(0, mostRows).map((r) => (
              <tr key={`${r.kind} ${r.atTick} ${r.says}`} className="hover:bg-sheet">
                <td className="num py-0.5 pr-4">{positionText(r.place)}</td>
                <td className="num pr-4 text-faint">{duration(ticksToSeconds(tempo, r.atTick), true)}</td>
                <td className="pr-4 text-faint">{kindNames[r.kind]}</td>
                <td className="pr-4">
                  <span className={r.kind === 'marker' || r.kind === 'cue point' ? 'font-medium' : 'num'}>{r.says}</span>
                  {r.beside && <span className="ml-2 text-[12px] text-faint">{r.beside}</span>}
                </td>
                <td className="text-right whitespace-nowrap">
                  <button type="button" className="rounded p-1 hover:bg-paper" aria-label={`Change ${kindNames[r.kind].toLowerCase()} at ${positionText(r.place)}`} onClick={() => prepare(r.edit)}>
                    <Pencil size={13} aria-hidden />
                  </button>
                  <button type="button" className="rounded p-1 text-rust hover:bg-paper" aria-label={`Take out ${kindNames[r.kind].toLowerCase()} at ${positionText(r.place)}`} disabled={step.isPending} onClick={() => step.mutate(r.remove)}>
                    <X size={13} aria-hidden />
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {shown.length === 0 && <p className="py-4 text-faint">{rows.length === 0 ? 'The song states no tempo and no meter: 120 BPM in 4/4 is what players take.' : 'None here.'}</p>}
        {shown.length > mostRows && <p className="py-2 text-ochre">and {(shown.length - mostRows).toLocaleString('en')} more; thin shredded changes, or choose bars on the strip.</p>}
      </div>
    </>
  );
}

function rowsOf(song: SongView): Row[] {
  const { timing, division } = song;
  const map = meterMap(timing.meters, division);
  const at = (atTick: number): { atTick: number; place: Position } => ({ atTick, place: positionAt(map, atTick) });
  const row = (kind: Kind, atTick: number, says: string, [operation, settings, out]: readonly [string, Record<string, unknown>, Record<string, unknown>], beside?: string): Row => {
    const { place } = at(atTick);
    const where = operation === 'timing.key' ? { bar: place.bar } : operation === 'timing.meter' ? { bar: place.bar, beat: place.beat } : { bar: place.bar, beat: place.beat, tick: place.tick };
    return { kind, atTick, place, says, edit: { operation, settings: { ...where, ...settings }, bars: 'all' }, remove: { operation, settings: { ...where, ...out } }, ...(beside ? { beside } : {}) };
  };
  const mark = (kind: 'marker' | 'cue point') => (m: { atTick: number; text: string }) => row(kind, m.atTick, m.text || '(no text)', ['timing.marker', { text: m.text, kind }, { text: '', kind }]);
  return [
    ...timing.tempos.map((t) => row('tempo', t.atTick, `${bpmText(t.bpm)} BPM`, ['timing.tempo', { bpm: t.bpm }, { bpm: null }], beatText(t.bpm, meterAt(map, t.atTick)))),
    ...timing.meters.filter((m) => m.atTick > 0 || m.numerator !== 4 || m.denominator !== 4).map((m) => row('meter', m.atTick, `${m.numerator}/${m.denominator}`, ['timing.meter', { numerator: m.numerator, denominator: String(m.denominator) }, { remove: true }])),
    ...timing.keys.map((k) => row('key', k.atTick, keySignatureText(k.sharps, k.minor), ['timing.key', { sharps: k.sharps, minor: k.minor }, { remove: true }])),
    ...timing.markers.map(mark('marker')),
    ...timing.cuePoints.map(mark('cue point')),
  ].sort((a, b) => a.atTick - b.atTick);
}

/** The tempo of the notated beat where it is another than the quarter: the dotted quarter in 6/8, the eighth in 7/8. */
function beatText(bpm: number, { numerator, denominator }: { numerator: number; denominator: number }): string | undefined {
  if (denominator === 4) return undefined;
  const compound = denominator === 8 && numerator % 3 === 0 && numerator > 3;
  return `${bpmText(Math.round((compound ? bpm / 1.5 : (bpm * denominator) / 4) * 100) / 100)} of the ${compound ? 'dotted quarter' : denominator === 2 ? 'half' : denominator === 8 ? 'eighth' : `1/${denominator}`}`;
}
