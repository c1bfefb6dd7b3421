import { ArrowRight, Download } from 'lucide-react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import type { NamedSource } from '#core/operations/sources.ts';
import { keySignatureText } from '#core/song/key-names.ts';
import { urlOf } from '#contracts/addresses.ts';
import type { SongView } from '#contracts/songs.ts';
import { buttonLook } from '../../components/button.tsx';
import { ProblemNote } from '../../components/problem-note.tsx';
import { bpmText, count, duration, fileSize } from '../../components/text.ts';
import { isFlat } from '../../drawing/glyphs.ts';
import { usePreparedStep } from '../../state/step.ts';
import { useThisSong } from '../../state/use-song.ts';
import { SourceField } from '../../fields/source-field.tsx';
import { intakeFrom } from '../../api/originals.ts';
import { WhoseWork } from '../../intake/whose-work.tsx';
import { BringScreen } from './bring-screen.tsx';

/**
 * What came in: what the file holds, what was wrong with it and what was done about that; or what is to
 * come in beside it.
 */
export function IntakeScreen() {
  const song = useThisSong();
  const [query] = useSearchParams();
  return query.has('from') ? <BringScreen song={song} /> : <Received song={song} />;
}

function Received({ song }: { song: SongView }) {
  return (
    <main aria-label="Bring in" className="min-h-0 overflow-auto px-7 py-5">
      <div className="mx-auto max-w-[920px]">
        <div className="flex items-start gap-4">
          <div className="min-w-0">
            <h2 className="text-[19px] font-semibold break-words">{song.original.fileName}</h2>
            <p className="text-faint">
              Received {new Date(song.createdAt).toLocaleString()}, {fileSize(song.original.bytes)},
              kept exactly as it came.
            </p>
          </div>
          <div className="ml-auto flex shrink-0 gap-2">
            <a className={buttonLook()} href={urlOf('getOriginal', { id: song.id })} download>
              <Download size={14} aria-hidden /> Original
            </a>
            <Link data-begin className={buttonLook('next')} to={`/songs/${song.id}`}>
              Look it over <ArrowRight size={14} aria-hidden />
            </Link>
          </div>
        </div>
        <Holds song={song} />
        <Faults song={song} />
        <More song={song} />
      </div>
    </main>
  );
}

/** What else is to come into the song: of files, or of another song. */
function More({ song }: { song: SongView }) {
  const navigate = useNavigate();
  return (
    <section aria-label="Bring in more" className="mt-6">
      <h3 className="seam mb-2 pb-1 text-[14px] font-semibold">Bring more into this song</h3>
      <p className="mb-2 text-faint">
        Drop files, folders or zip archives on it, or paste them: what they hold is shown beside its
        bars before any of it is taken.
      </p>
      <div className="max-w-[420px]">
        <SourceField
          title="From"
          value={undefined}
          set={(source) => void navigate(intakeFrom(song.id, source as NamedSource))}
        />
      </div>
    </section>
  );
}

function Holds({ song }: { song: SongView }) {
  return (
    <section aria-label="What it holds" className="mt-5">
      <h3 className="seam mb-2 pb-1 text-[14px] font-semibold">What it holds</h3>
      <ul className="grid grid-cols-2 gap-x-8 gap-y-1.5">
        {holdings(song).map(([what, look]) => (
          <li key={what} className={look ? 'text-ochre' : ''}>
            {what}
          </li>
        ))}
      </ul>
      <WhoseWork sha256={song.original.sha256} timing={song.timing} />
      {song.encoding !== 'UTF-8' && <Encoding song={song} />}
      <p className="num mt-3 text-[11px] break-all text-faint">SHA-256 {song.original.sha256}</p>
    </section>
  );
}

/**
 * How names and markers are read, judged from all texts of the file, and the way to read them otherwise: a
 * step that is seen before it is taken.
 */
function Encoding({ song }: { song: SongView }) {
  const { prepare } = usePreparedStep();
  const other = song.encoding === 'Shift-JIS' ? 'Windows-1252' : 'Shift-JIS';
  return (
    <p className="mt-1.5">
      Texts read as {song.encoding}.{' '}
      <Link
        to={`/songs/${song.id}`}
        className="underline decoration-line underline-offset-4 hover:decoration-amber"
        onClick={() => prepare({ operation: 'song.encoding', settings: { encoding: other } })}
      >
        Read them in another encoding …
      </Link>
    </p>
  );
}

type Line = readonly [text: string, look?: boolean];

function temposText({ tempos, tempoCount }: SongView['timing']): string {
  const bpms = tempos.map((t) => t.bpm);
  if (bpms.length === 0) return 'No tempo stated: 120 BPM';
  if (bpms.length === 1) return `One tempo, ${bpmText(bpms[0]!)} BPM`;
  return `${count(tempoCount, 'tempo event')}, ${bpmText(Math.min(...bpms))} to ${bpmText(Math.max(...bpms))} BPM`;
}

/** Everything that can be said about the song at a glance, what deserves a look marked. */
function holdings(song: SongView): Line[] {
  const { timing, tracks } = song;
  const playing = tracks.filter((t) => t.notes > 0);
  const unnamed = playing.filter((t) => t.name === '').length;
  const flat = playing.filter(isFlat).length;
  const drums = playing.filter((t) => t.channel === 10).length;
  const sum = (of: (t: (typeof tracks)[number]) => number): number =>
    tracks.reduce((n, t) => n + of(t), 0);
  const lines: (Line | false)[] = [
    [
      `${count(playing.length, 'part')} with ${count(song.notes, 'note')}${drums > 0 ? `, ${drums} on the drum channel` : ''}`,
    ],
    [`${count(timing.bars, 'bar')}, ${duration(timing.seconds)}`],
    unnamed > 0 && [`${count(unnamed, 'part')} without a name`, true],
    flat > 0 && [`${count(flat, 'part')} with one velocity throughout`, true],
    [temposText(timing), timing.tempoCount > 200],
    [
      `Meter ${[...new Set(timing.meters.map((m) => `${m.numerator}/${m.denominator}`))].join(', ')}`,
    ],
    timing.keys.length > 0 && [
      `Key ${[...new Set(timing.keys.map((k) => keySignatureText(k.sharps, k.minor)))].slice(0, 4).join(', ')}`,
    ],
    [timing.markers.length === 0 ? 'No markers' : count(timing.markers.length, 'marker')],
    timing.cuePoints.length > 0 && [count(timing.cuePoints.length, 'cue point')],
    timing.startTimecode !== undefined && [
      `Start timecode ${timing.startTimecode} at ${timing.frameRate} frames a second`,
    ],
    sum((t) => t.counts.lyrics) > 0 && [
      count(
        sum((t) => t.counts.lyrics),
        'lyric event',
      ),
    ],
    [
      `${count(
        sum((t) => t.controllers.reduce((n, c) => n + c.count, 0)),
        'controller event',
      )}, ${count(
        sum((t) => t.counts.programChanges),
        'program change',
      )}`,
    ],
    sum((t) => t.counts.systemExclusive) > 0 && [
      count(
        sum((t) => t.counts.systemExclusive),
        'system exclusive message',
      ),
    ],
    [
      `Format ${song.receivedFormat}, ${song.divisionText}${song.original.wrapped ? ', in a RIFF wrapper' : ''}`,
    ],
    song.receivedFormat === 0 &&
      song.undo?.startsWith('Gave each') === true && [`${song.undo}; undo keeps the one track`],
    song.original.alienChunks.length > 0 && [
      `${count(song.original.alienChunks.length, 'chunk')} of another kind, kept: ${[...new Set(song.original.alienChunks.map((c) => c.id))].join(', ')}`,
    ],
  ];
  return lines.filter((l) => l !== false);
}

function Faults({ song }: { song: SongView }) {
  return (
    <section aria-label="Faults" className="mt-6">
      <h3 className="seam mb-2 pb-1 text-[14px] font-semibold">Faults in the file</h3>
      {song.reading.length === 0 ? (
        <p className="text-moss">None. It is written as the specification wants it.</p>
      ) : (
        <ul className="space-y-2.5">
          {song.reading.map((problem, i) => (
            <li key={i}>
              <ProblemNote problem={{ ...problem, where: withoutFile(problem.where) }} />
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** The page is about one file: its name need not stand before each fault. */
const withoutFile = (
  where: SongView['reading'][number]['where'],
): SongView['reading'][number]['where'] =>
  Object.fromEntries(Object.entries(where).filter(([key]) => key !== 'file'));
