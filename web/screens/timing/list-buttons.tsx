import { Download, Upload } from 'lucide-react';
import { useRef, useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { useStep } from '../../api/queries.ts';
import { Button } from '../../components/button.tsx';
import { count } from '../../components/text.ts';
import { rateOf } from './converter.tsx';
import { isEdl, listCsv, readCsv, readEdlList, type ListRead } from './lists.ts';

/** The map out as a list, and markers and tempos in from one; lines that cannot be read are named, the others taken. */
export function ListButtons({ song }: { song: SongView }) {
  const input = useRef<HTMLInputElement>(null);
  const step = useStep(song.id, song.revision);
  const [read, setRead] = useState<ListRead & { name: string }>();
  const save = (): void => {
    const link = document.createElement('a');
    link.href = URL.createObjectURL(new Blob([listCsv(song)], { type: 'text/csv' }));
    link.download = `${song.title} map.csv`;
    link.click();
    URL.revokeObjectURL(link.href);
  };
  const take = async (file: File): Promise<void> => {
    const text = await file.text();
    const list = isEdl(file.name, text) ? readEdlList(text, song, rateOf(song.timing)) : readCsv(text, song);
    setRead({ ...list, name: file.name });
    if (list.marks.length + list.tempos.length > 0) step.mutate({ operation: 'timing.places', settings: { marks: list.marks, tempos: list.tempos } });
  };
  return (
    <section aria-label="Lists" className="mb-4">
      <div className="flex flex-wrap gap-1.5">
        <Button onClick={save} title="Tempos, meters, keys and markers as comma-separated values">
          <Download size={13} aria-hidden /> Save as CSV
        </Button>
        <Button disabled={step.isPending} onClick={() => input.current?.click()} title="Markers and tempos from CSV (kind, position or seconds, value), or markers from an edit decision list (CMX 3600)">
          <Upload size={13} aria-hidden /> Bring in a list
        </Button>
        <input
          ref={input}
          type="file"
          hidden
          accept=".csv,.edl,.txt"
          aria-label="List of markers or tempos"
          data-testid="list"
          onChange={(e) => {
            const file = e.target.files?.[0];
            e.target.value = '';
            if (file) void take(file);
          }}
        />
      </div>
      {song.timing.tempoCount > song.timing.tempos.length && <p className="mt-1 text-[12px] text-ochre">The list holds the first {song.timing.tempos.length.toLocaleString('en')} of {song.timing.tempoCount.toLocaleString('en')} tempos. Thin shredded changes first.</p>}
      {read && (
        <div role="status" className="mt-2 text-[12.5px]">
          <p>
            {read.name}: {count(read.marks.length, 'marker')}, {count(read.tempos.length, 'tempo')} taken{read.faults.length > 0 && `, ${count(read.faults.length, 'line')} not`}.
          </p>
          <ul className="text-ochre">
            {read.faults.slice(0, 20).map((f) => (
              <li key={`${f.line} ${f.why}`}>
                {f.line > 0 ? `Line ${f.line}: ` : ''}
                {f.why}
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}
