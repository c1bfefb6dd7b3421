import { format as formatDate } from 'date-fns';
import type { HandoffView } from '#contracts/handoffs.ts';
import { urlOf } from '#contracts/addresses.ts';
import { stateText, type Slip } from '#core/handoff/slip.ts';
import { count, duration, fileSize } from '../../components/text.ts';
import { Links } from './links.tsx';
import { FilesTable } from './files-table.tsx';
import { LeftOut } from './left-out-list.tsx';
import { WaysOut } from './ways-out.tsx';

/** A handoff that was made: how it gets out, what it holds, what of it was left out, and the proof. */
export function Made({
  handoff,
  head,
  fresh,
}: {
  readonly handoff: HandoffView;
  readonly head: number;
  /** It was made just now. */
  readonly fresh: boolean;
}) {
  const { files, slip } = handoff;
  const one = files.length === 1;
  const bytes = files.reduce((sum, f) => sum + f.bytes, 0);
  const at = formatDate(new Date(handoff.at), 'd MMM yyyy, HH:mm:ss');
  const length = slip.extent ? `, ${duration(slip.extent.seconds, true)}` : '';
  const timecode = slip.extent?.timecode;
  return (
    <article aria-label="Slip" className="rounded-lg border border-line bg-sheet px-6 py-5">
      <h3 className="text-[16px] font-semibold break-words">
        {one ? slip.file : `${slip.song}: ${count(files.length, 'file')}`}
      </h3>
      <p className="text-faint">
        {one && `Format ${slip.format}, ${slip.division}${length}, `}
        {one && timecode && `${timecode.from} to ${timecode.to}, `}
        {fileSize(bytes)}, {at}
        {handoff.receiver && `, for ${handoff.receiver.name}`}
      </p>
      <WhoseWork slip={slip} />
      {handoff.revision !== head && <Since handoff={handoff} />}
      <div className="mt-3">
        <WaysOut handoff={handoff} fresh={fresh} />
      </div>
      <ProofLine handoff={handoff} />
      {one ? (
        <SlipTracks slip={slip as Slip} />
      ) : (
        <div className="mt-4">
          <FilesTable
            files={files}
            label="Files that were made"
            link={(name) => urlOf('getHandoffFile', { id: handoff.id, name })}
          />
        </div>
      )}
      {one && slip.removed.length > 0 && <Removed tracks={slip.removed} />}
      <LeftOut
        title="Left out or changed"
        notes={one ? slip.notes : handoff.notes}
        files={one ? [] : files}
      />
      <Links handoff={handoff.id} />
      {one && (
        <p className="mt-4 text-[12px] text-faint">
          The receiver can check it with any tool. SHA-256{' '}
          <span className="num text-[11px] break-all">{slip.sha256}</span>
        </p>
      )}
    </article>
  );
}

const Removed = ({ tracks }: { tracks: HandoffView['slip']['removed'] }) => (
  <section aria-label="Removed" className="mt-4">
    {tracks.map((t, i) => (
      <p key={i}>
        {t.name}, {count(t.events, 'event')}: removed
      </p>
    ))}
  </section>
);

/** What was done to the song since the files were made. */
const Since = ({ handoff: { files, since } }: { handoff: HandoffView }) => (
  <div className="text-ochre">
    <p>
      The song has changed since {files.length === 1 ? 'this file was' : 'these files were'} made.
    </p>
    <ul className="list-disc pl-5 text-[12.5px]">
      {since?.map((said, n) => (
        <li key={n}>{said}</li>
      ))}
    </ul>
  </div>
);

function ProofLine({ handoff: { files, slip } }: { handoff: HandoffView }) {
  const { proof } = slip;
  const words = !proof.holds
    ? `The file does not read back as meant: ${proof.differences.join('; ')}`
    : files.length > 1
      ? `All ${files.length.toLocaleString('en')} files were read back and held against the song: every event is the one meant, at its tick and in its order.`
      : slip.sameAsOriginal
        ? 'Byte for byte the file that was received.'
        : `Read back: ${count(proof.tracks, 'track')}, ${count(proof.events, 'event')}, each the one meant, at its tick and in its order.`;
  return (
    <p
      className={`mt-3 border-l-3 pl-3 font-medium ${proof.holds ? 'border-moss text-moss' : 'border-rust text-rust'}`}
    >
      {words}
    </p>
  );
}

const untouched: ReadonlySet<string> = new Set(['same bytes', 'same events']);

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
            <td className={untouched.has(t.state) ? 'text-moss' : ''}>
              {stateText(t, slip.sameAsOriginal)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What the file says of whose work it is, and where its originals are from. */
const WhoseWork = ({ slip }: { readonly slip: HandoffView['slip'] }) =>
  [
    ...(slip.copyright ?? []).map((said) => `Copyright: ${said}`),
    ...(slip.sources ?? []).map((said) => `Source: ${said}`),
  ].map((said) => (
    <p key={said} className="text-[12.5px] break-words text-faint">
      {said}
    </p>
  ));
