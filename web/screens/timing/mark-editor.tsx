import { useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import type { MeterMap } from '#core/timing/meter-map.ts';
import { useStep } from '../../api/queries.ts';
import { Button } from '../../components/button.tsx';
import { marksOf, type MarkRow } from './map-rows.ts';
import { EditButtons } from './edit-buttons.tsx';
import { PlaceField, box, nearestBar, placeText, tickIn } from '../../fields/place-field.tsx';
import { Choice } from '../../fields/choice.tsx';
import { Check } from '../../fields/check.tsx';

/** A marker, cue point, text or section edited in its row: name, place, kind, track, and whether it is sent. */
export function MarkEditor({ song, meters, mark, done }: { song: SongView; meters: MeterMap; mark: MarkRow; done: () => void }) {
  const step = useStep(song.id, song.revision);
  const said = (tick: number): string => placeText(meters, tick);
  const [text, setText] = useState(mark.text);
  const [kind, setKind] = useState(mark.kind);
  const [place, setPlace] = useState(said(mark.atTick));
  const [end, setEnd] = useState(mark.toTick === undefined ? '' : said(mark.toTick));
  const [travels, setTravels] = useState(mark.travels);
  // Most belong to the song, which has them in its first track.
  const home = mark.track || song.tracks[0]!.id;
  const [track, setTrack] = useState(home);
  const section = mark.kind === 'section';
  const at = tickIn(meters, place);
  const to = section ? tickIn(meters, end) : undefined;
  const wrong = text.trim() === '' ? 'It needs a name.' : at === undefined ? `${place} is no place of this song.` : section && (to === undefined || to <= at) ? 'A section ends behind its beginning.' : undefined;
  const save = (): void => {
    if (wrong || at === undefined) return;
    const come = marksOf({ kind, text: text.trim(), atTick: at, ...(to === undefined ? {} : { toTick: to }) }).map((m) => ({ ...m, travels }));
    const gone = marksOf(mark).map((m) => ({ ...m, ...(mark.track ? { track: mark.track } : {}) }));
    step.mutate({ operation: 'timing.marks', settings: { gone, come, into: track } }, { onSuccess: done });
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
      <input autoFocus aria-label="Name" className={`${box} w-[150px]`} maxLength={200} value={text} onChange={(e) => setText(e.target.value)} />
      {!section && (
        <Choice label="Kind" hidden value={kind} options={[['marker', 'Marker'], ['cue point', 'Cue point'], ['text', 'Text']]} set={setKind} />
      )}
      <PlaceField label={section ? 'From' : 'Place'} value={place} set={setPlace} meters={meters} />
      {section && <PlaceField label="Until" value={end} set={setEnd} meters={meters} />}
      {song.tracks.length > 1 && (
        <Choice label="in" className="max-w-[112px]" value={track} options={song.tracks.map((t, i) => [t.id, i === 0 ? 'the song' : t.name || `track ${i + 1}`] as const)} set={setTrack} />
      )}
      <Button type="button" onClick={toBar} title="To the nearest bar line">
        To the bar
      </Button>
      <Check checked={travels} set={setTravels}>
        sent
      </Check>
      <EditButtons wrong={wrong} busy={step.isPending} done={done} />
    </form>
  );
}
