import { format as formatDate } from 'date-fns';
import { Download, FileText } from 'lucide-react';
import { useState } from 'react';
import type { HandoffView } from '#contracts/handoffs.ts';
import type { SongView } from '#contracts/songs.ts';
import { channelsOnSeveralPorts } from '#core/song/ports.ts';
import { urlOf } from '#contracts/addresses.ts';
import { stateText, type Slip } from '#core/handoff/slip.ts';
import { useHandoff, useHandoffs } from '../../api/queries.ts';
import { Button, buttonLook } from '../../components/button.tsx';
import { count, fileSize } from '../../components/text.ts';
import { useThisSong } from '../../state/use-song.ts';
import { Check } from '../../fields/check.tsx';
import { Radios } from '../../fields/radios.tsx';

type Format = 'as-received' | 0 | 1;

/** The way out: which file, what it will keep, and the slip with its proof once it is made. */
export function HandoffScreen() {
  const song = useThisSong();
  const [format, setFormat] = useState<Format>('as-received');
  const [runningStatus, setRunningStatus] = useState(true);
  const [chunks, setChunks] = useState(true);
  const made = useHandoffs(song.id);
  const make = useHandoff(song.id, song.revision);
  const [shown, setShown] = useState<string>();
  const current = made.data?.find((h) => h.id === shown) ?? made.data?.[0];
  return (
    <main aria-label="Hand off" className="min-h-0 overflow-auto px-7 py-5">
      <div className="mx-auto grid max-w-[1080px] grid-cols-[300px_minmax(0,1fr)] gap-8">
        <div>
          <h2 className="text-[19px] font-semibold">Hand off</h2>
          <p className="mt-3 mb-1 text-[12px] text-faint" aria-hidden>
            File format
          </p>
          <Radios
            label="File format"
            className="space-y-1.5"
            value={String(format)}
            options={choices(song).map((c) => ({
              value: String(c.format),
              says: <span className="font-medium">{c.name}</span>,
              about: <ChoiceWords {...c} />,
            }))}
            set={(said) => setFormat(said === 'as-received' ? said : (Number(said) as 0 | 1))}
            frame={(chosen) =>
              `rounded border px-3 py-2 ${chosen ? 'border-amber bg-amber-soft' : 'border-line bg-sheet'}`
            }
          />
          <div className="mt-3 space-y-3">
            <Check
              checked={runningStatus}
              set={setRunningStatus}
              says="Smaller. Leave it out for readers that stumble over it. Tracks that were not touched stay as they are."
            >
              Running status
            </Check>
            {song.original.alienChunks.length > 0 && (
              <Check
                checked={chunks}
                set={setChunks}
                says={`${count(song.original.alienChunks.length, 'chunk')} of other kinds came with the file: in their places as received, else last. Leave them out for readers that stumble over them.`}
              >
                Other chunks
              </Check>
            )}
          </div>
          <Button
            kind="next"
            className="mt-4 w-full"
            disabled={make.isPending}
            onClick={() =>
              make.mutate({ format, runningStatus, chunks }, { onSuccess: (h) => setShown(h.id) })
            }
          >
            {make.isPending ? 'Writing and reading back …' : 'Make the file'}
          </Button>
          <Earlier handoffs={made.data ?? []} current={current?.id} show={setShown} />
        </div>
        <div>
          {current ? (
            <SlipView handoff={current} head={song.revision} />
          ) : (
            <p className="mt-10 text-faint">
              No file made yet. Each one is written, read back and held against the song before you
              get it; the slip says what came of that.
            </p>
          )}
        </div>
      </div>
    </main>
  );
}

/** What a format means, and what it costs here. */
const ChoiceWords = ({ says, warns }: { says: string; warns?: string | undefined }) => (
  <>
    <span className="block text-[12.5px] text-faint">{says}</span>
    {warns && <span className="block text-[12.5px] text-ochre">{warns}</span>}
  </>
);

interface Choice {
  readonly format: Format;
  readonly name: string;
  readonly says: string;
  /** What it would do to how the song sounds, and what helps. */
  readonly warns?: string;
}

/** Where one track has one port, parts that only their ports keep apart play one instrument. */
function portsWarning(song: SongView): string | undefined {
  const channels = channelsOnSeveralPorts(
    song.tracks.map((t) => ({ port: t.ports[0] ?? 0, channels: t.channels })),
  );
  if (channels.length === 0) return undefined;
  return `It has one port: parts of several ports on ${channels.length === 1 ? 'channel' : 'channels'} ${channels.join(', ')} would play one instrument. Give them channels of their own first (Set channels).`;
}

function choices(song: SongView): Choice[] {
  const tracks = count(song.tracks.length, 'track');
  const one =
    song.receivedFormat === 1
      ? 'Format 1, as it came'
      : song.receivedFormat === 2
        ? 'Format 0, the pattern as its one track'
        : 'Format 0, as it came';
  const warns = portsWarning(song);
  const named = song.tracks.slice(1).filter((t) => t.ownName).length;
  return [
    {
      format: 'as-received',
      name: 'As received',
      says: `${one}${song.original.wrapped ? ', in its wrapper' : ''}. Untouched tracks leave as their very bytes.`,
    },
    { format: 1, name: 'Format 1', says: `${tracks}, each its own.` },
    {
      format: 0,
      name: 'Format 0',
      says: `All ${tracks} in one, for receivers that take no other.${named > 0 ? ` ${count(named, 'track name')} will become instrument names.` : ''}`,
      ...(warns ? { warns } : {}),
    },
  ];
}

function Earlier({
  handoffs,
  current,
  show,
}: {
  handoffs: readonly HandoffView[];
  current: string | undefined;
  show: (id: string) => void;
}) {
  if (handoffs.length < 2) return null;
  return (
    <section aria-label="Made before" className="mt-6">
      <h3 className="mb-1 text-[12px] text-faint">Made before</h3>
      <ul>
        {handoffs.map((h) => (
          <li key={h.id}>
            <button
              type="button"
              aria-pressed={h.id === current}
              className="flex w-full justify-between gap-2 rounded px-2 py-1 text-left hover:bg-sheet aria-pressed:bg-amber-soft"
              onClick={() => show(h.id)}
            >
              <span>Format {h.slip.format}</span>
              <span className="num text-faint">{formatDate(new Date(h.at), 'd MMM HH:mm:ss')}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function SlipView({ handoff, head }: { handoff: HandoffView; head: number }) {
  const { slip, files } = handoff;
  const [file] = files;
  return (
    <article aria-label="Slip" className="rounded-lg border border-line bg-sheet px-6 py-5">
      <div className="flex items-start gap-3">
        <div className="min-w-0">
          <h3 className="text-[16px] font-semibold break-words">{slip.file}</h3>
          <p className="text-faint">
            Format {slip.format}, {slip.division}, {fileSize(slip.bytes)},{' '}
            {formatDate(new Date(handoff.at), 'd MMM yyyy, HH:mm:ss')}
          </p>
          {handoff.revision !== head && (
            <p className="text-ochre">The song has changed since this file was made.</p>
          )}
        </div>
        <div className="ml-auto flex shrink-0 flex-col gap-1.5">
          <a
            className={buttonLook('next')}
            href={urlOf('getHandoffFile', { id: handoff.id, name: file!.name })}
            download={file!.name}
          >
            <Download size={14} aria-hidden /> Download
          </a>
          <a className={buttonLook()} href={urlOf('getSlip', { id: handoff.id })} download>
            <FileText size={14} aria-hidden /> Slip as text
          </a>
        </div>
      </div>
      <p
        className={`mt-3 border-l-3 pl-3 font-medium ${slip.proof.holds ? 'border-moss text-moss' : 'border-rust text-rust'}`}
      >
        {slip.proof.holds
          ? slip.sameAsOriginal
            ? 'Byte for byte the file that was received.'
            : `Read back: ${count(slip.proof.tracks, 'track')}, ${count(slip.proof.events, 'event')}, each the one meant, at its tick and in its order.`
          : `The file does not read back as meant: ${slip.proof.differences.join('; ')}`}
      </p>
      <SlipTracks slip={slip as Slip} />
      <section aria-label="Left out" className="mt-4">
        <h4 className="seam mb-1 pb-0.5 font-semibold">Left out</h4>
        {slip.removed.length === 0 && slip.notes.length === 0 && (
          <p className="text-faint">Nothing.</p>
        )}
        {slip.removed.map((t, i) => (
          <p key={i}>
            {t.name}, {count(t.events, 'event')}: removed
          </p>
        ))}
        {slip.notes.map((note) => (
          <p key={note}>{note}</p>
        ))}
      </section>
      <p className="num mt-4 text-[11px] break-all text-faint">SHA-256 {slip.sha256}</p>
    </article>
  );
}

const stateLooks: Record<Slip['tracks'][number]['state'], string> = {
  'same bytes': 'text-moss',
  'same events': 'text-moss',
  changed: '',
  new: '',
};

function SlipTracks({ slip }: { slip: Slip }) {
  return (
    <table className="mt-4 w-full border-collapse">
      <thead className="text-left text-[12px] text-faint">
        <tr className="border-b border-line [&>th]:py-0.5 [&>th]:pr-3 [&>th]:font-normal">
          <th>#</th>
          <th>Track</th>
          <th className="text-right">Ch</th>
          <th className="text-right">Notes</th>
          <th className="text-right">Events</th>
          <th>What it is</th>
        </tr>
      </thead>
      <tbody>
        {slip.tracks.map((t, i) => (
          <tr key={t.id} className="border-b border-line [&>td]:py-0.5 [&>td]:pr-3">
            <td className="num text-faint">{i + 1}</td>
            <td className="max-w-[220px] truncate">{t.name}</td>
            <td className="num text-right">{t.channels.map((c) => c + 1).join(', ')}</td>
            <td className="num text-right">{t.notes.toLocaleString('en')}</td>
            <td className="num text-right">{t.events.toLocaleString('en')}</td>
            <td className={stateLooks[t.state]}>{stateText(t, slip.sameAsOriginal)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
