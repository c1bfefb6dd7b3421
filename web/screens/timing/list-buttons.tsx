import { Download, Upload } from 'lucide-react';
import { useRef } from 'react';
import { urlOf } from '#contracts/addresses.ts';
import type { SongView } from '#contracts/songs.ts';
import { Button, buttonLook } from '../../components/button.tsx';
import { saveFile } from '../../components/save-file.ts';
import { useMaps } from '../../api/maps.ts';
import { listCsv } from '../../../core/lists/map-csv.ts';
import type { ListFile } from '../../../core/lists/lists.ts';

/** The map alone: out as MIDI or CSV, and in from either, or from an edit decision list. */
export function ListButtons({
  song,
  choose,
}: {
  song: SongView;
  choose: (file: ListFile) => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  const maps = useMaps(song);
  const save = (): void =>
    saveFile(`${song.title} map.csv`, new Blob([listCsv(song, maps)], { type: 'text/csv' }));
  const take = async (given: File): Promise<void> =>
    choose({ name: given.name, bytes: new Uint8Array(await given.arrayBuffer()) });
  return (
    <section aria-label="The map alone" className="mb-4">
      <h2 className="seam mb-2 pb-1 text-[14px] font-semibold">The map alone</h2>
      <div className="mb-2 flex flex-wrap gap-1.5">
        <a
          className={buttonLook()}
          href={urlOf('getMap', { id: song.id })}
          download
          title="Tempos, meters, keys, sections, markers, cue points, timecode and length as a MIDI file without notes"
        >
          <Download size={13} aria-hidden /> As MIDI
        </a>
        <Button
          onClick={save}
          title="Tempos, meters, keys, sections and markers as comma-separated values"
        >
          <Download size={13} aria-hidden /> As CSV
        </Button>
        <Button
          onClick={() => input.current?.click()}
          title="The map of a MIDI file, a CSV (kind, position or seconds, value, and end for sections), or markers from an edit decision list (CMX 3600)"
        >
          <Upload size={13} aria-hidden /> Bring in …
        </Button>
        <input
          ref={input}
          type="file"
          hidden
          accept=".mid,.midi,.kar,.rmi,.smf,.csv,.edl,.txt"
          aria-label="File with a map or markers"
          data-testid="list"
          onChange={(e) => {
            const given = e.target.files?.[0];
            e.target.value = '';
            if (given) void take(given);
          }}
        />
      </div>
    </section>
  );
}
