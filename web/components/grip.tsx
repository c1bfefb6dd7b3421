import { FileUp } from 'lucide-react';
import { fetchFile } from '../api/client.ts';
import { showProblem } from '../api/queries.ts';
import { carry, type Outgoing } from '../handoff/drag-out.ts';
import { saveFile } from './save-file.ts';

/** Saves the file; what cannot be made is said, where a browser would only fail to load it. */
async function save({ name, address }: Outgoing): Promise<void> {
  try {
    saveFile(name, await fetchFile(address));
  } catch (error) {
    showProblem(error);
  }
}

/** A grip that drags a file out of the page; pressed, the file is saved. */
export function Grip({
  says,
  out,
  className = '',
  skipped = false,
}: {
  readonly says: string;
  readonly out: () => Outgoing;
  readonly className?: string;
  /** The tab key passes it over: what it stands in has keys of its own. */
  readonly skipped?: boolean;
}) {
  const { name, address } = out();
  return (
    <a
      href={address}
      download={name}
      draggable
      aria-label={says}
      title={`${says}: drag it where it is to go, or press to save it`}
      tabIndex={skipped ? -1 : 0}
      className={`inline-grid shrink-0 cursor-grab place-items-center rounded border border-transparent p-0.5 text-faint hover:border-line hover:text-ink ${className}`}
      onDragStart={(e) => {
        e.stopPropagation();
        carry(e, out());
      }}
      // What it stands in is dragged and pressed too, for other things.
      onPointerDown={(e) => e.stopPropagation()}
      onClick={(e) => {
        e.stopPropagation();
        e.preventDefault();
        void save(out());
      }}
      onDoubleClick={(e) => e.stopPropagation()}
    >
      <FileUp size={13} aria-hidden />
    </a>
  );
}
