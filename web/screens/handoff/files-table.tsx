import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef } from 'react';
import type { HandoffFile } from '#contracts/handoffs.ts';
import { duration, fileSize } from '../../components/text.ts';

const rowHeight = 27;

/** Files of a handoff, made or to be made: what each is called, how long it is and what it holds. */
export function FilesTable({
  files,
  label,
  link,
}: {
  readonly files: readonly Omit<HandoffFile, 'sha256'>[];
  readonly label: string;
  /** Where a file that was made is. */
  readonly link?: (name: string) => string;
}) {
  const box = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: files.length,
    getScrollElement: () => box.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  });
  return (
    <div className="rounded border border-line bg-sheet">
      <div
        className="grid grid-cols-[minmax(0,1fr)_56px_64px_56px_72px_76px] gap-2 border-b border-line px-3 py-1 text-[12px] text-faint"
        aria-hidden
      >
        <span>File</span>
        <span className="text-right">Tracks</span>
        <span className="text-right">Notes</span>
        <span className="text-right">Bars</span>
        <span className="text-right">Time</span>
        <span className="text-right">Size</span>
      </div>
      <div
        ref={box}
        role="list"
        aria-label={label}
        tabIndex={0}
        className="max-h-[38vh] overflow-auto"
      >
        <div className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map(({ index, start }) => (
            <FileRow key={index} file={files[index]!} top={start} link={link} />
          ))}
        </div>
      </div>
    </div>
  );
}

function FileRow({
  file,
  top,
  link,
}: {
  readonly file: Omit<HandoffFile, 'sha256'>;
  readonly top: number;
  readonly link: ((name: string) => string) | undefined;
}) {
  const { name, extent, bytes } = file;
  return (
    <div
      role="listitem"
      className="absolute inset-x-0 grid grid-cols-[minmax(0,1fr)_56px_64px_56px_72px_76px] items-center gap-2 border-b border-line px-3 last:border-b-0"
      style={{ top, height: rowHeight }}
    >
      {link ? (
        <a
          className="truncate underline decoration-line underline-offset-3 hover:decoration-amber"
          href={link(name)}
          download={name}
        >
          {name}
        </a>
      ) : (
        <span className="truncate" title={name}>
          {name}
        </span>
      )}
      <span className="num text-right">{extent?.tracks}</span>
      <span className="num text-right">{extent?.notes.toLocaleString('en')}</span>
      <span className="num text-right">{extent?.bars.toLocaleString('en')}</span>
      <span className="num text-right">{extent && duration(extent.seconds)}</span>
      <span className="num text-right">{fileSize(bytes)}</span>
    </div>
  );
}
