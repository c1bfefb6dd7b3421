import { Download, Upload } from 'lucide-react';
import { useRef, useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { useStep } from '../../api/queries.ts';
import { Button } from '../../components/button.tsx';
import { saveFile } from '../../components/save-file.ts';
import { count } from '../../components/text.ts';
import { useMaps } from '../../api/maps.ts';
import { isEdl, listCsv, readCsv, readEdlList, type ListRead } from './lists.ts';

/** The map out as a list, and in from one; lines that cannot be read are named, the others taken. */
export function ListButtons({ song }: { song: SongView }) {
  const input = useRef<HTMLInputElement>(null);
  const maps = useMaps(song);
  const step = useStep(song.id, song.revision);
  const [read, setRead] = useState<ListRead & { name: string }>();
  const save = (): void => saveFile(`${song.title} map.csv`, new Blob([listCsv(song, maps)], { type: 'text/csv' }));
  const take = async (file: File): Promise<void> => {
    const text = await file.text();
    const list = isEdl(file.name, text) ? readEdlList(text, song, maps) : readCsv(text, song, maps);
    setRead({ ...list, name: file.name });
    const { marks, tempos, meters, keys, sections } = list;
    const settings = { marks, tempos, meters, keys, sections };
    if (Object.values(settings).some((found) => found.length > 0)) step.mutate({ operation: 'timing.places', settings });
  };
  return (
    <section aria-label="Lists" className="mb-4">
      <div className="flex flex-wrap gap-1.5">
        <Button onClick={save} title="Tempos, meters, keys, sections and markers as comma-separated values">
          <Download size={13} aria-hidden /> Save as CSV
        </Button>
        <Button disabled={step.isPending} onClick={() => input.current?.click()} title="A map from CSV (kind, position or seconds, value, and end for sections), or markers from an edit decision list (CMX 3600)">
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
      {read && (
        <div role="status" className="mt-2 text-[12.5px]">
          <p>
            {read.name}: {takenText(read)} taken{read.faults.length > 0 && `, ${count(read.faults.length, 'line')} not`}.
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

/** What a list gave, by kind; markers and tempos also where there are none. */
function takenText({ marks, tempos, meters, keys, sections }: ListRead): string {
  const others = ([[sections, 'section'], [meters, 'meter'], [keys, 'key']] as const).filter(([list]) => list.length > 0).map(([list, word]) => count(list.length, word));
  return [count(marks.length, 'marker'), count(tempos.length, 'tempo'), ...others].join(', ');
}
