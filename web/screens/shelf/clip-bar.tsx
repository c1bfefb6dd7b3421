import { Download } from 'lucide-react';
import { useId, useState, type KeyboardEvent } from 'react';
import { urlOf } from '#contracts/addresses.ts';
import type { ClipView } from '#contracts/shelf.ts';
import { clipKinds } from '#core/shelf/kind.ts';
import { useChangeClip, useFolders } from '../../api/shelf.ts';
import { buttonLook } from '../../components/button.tsx';
import { Choice, asSaid } from '../../fields/choice.tsx';
import { input } from '../../fields/field.ts';
import { isHere } from './look-through.ts';

/** What can be said otherwise of the clip that is gone to: what it is for, its tags, where it lies; and its file. */
export function ClipBar({ clip }: { clip: ClipView }) {
  const change = useChangeClip();
  const folders = useFolders().data?.folders ?? [];
  const id = useId();
  if (isHere(clip)) return null;
  return (
    <section
      aria-label={`Of ${clip.name}`}
      className="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line px-3 py-1.5 text-[12.5px]"
    >
      <Choice
        label="Kind"
        value={clip.kind}
        options={asSaid(clipKinds)}
        set={(kind) => change.mutate({ id: clip.id, kind })}
      />
      <TextField
        key={`tags ${clip.id} ${clip.tags.join()}`}
        label="Tags"
        placeholder="with commas between"
        initial={clip.tags.join(', ')}
        keep={(text) =>
          change.mutate({
            id: clip.id,
            tags: text
              .split(',')
              .map((t) => t.trim())
              .filter((t) => t !== ''),
          })
        }
      />
      <TextField
        key={`folder ${clip.id} ${clip.folder}`}
        label="Folder"
        placeholder="none"
        list={id}
        initial={clip.folder}
        keep={(folder) => change.mutate({ id: clip.id, folder })}
      />
      <datalist id={id}>
        {folders.map((f) => (
          <option key={f.path} value={f.path} />
        ))}
      </datalist>
      <a
        className={buttonLook()}
        href={urlOf('getFile', { sha256: clip.sha256 })}
        download={`${clip.name}.mid`}
      >
        <Download size={13} aria-hidden /> The file
      </a>
    </section>
  );
}

/** A text that is kept with Enter or by leaving it; Escape leaves it as it was. */
function TextField({
  label,
  initial,
  keep,
  ...rest
}: {
  label: string;
  initial: string;
  placeholder: string;
  list?: string;
  keep: (text: string) => void;
}) {
  const [text, setText] = useState(initial);
  const done = (): void => {
    if (text.trim() !== initial) keep(text.trim());
  };
  const onKeyDown = (e: KeyboardEvent<HTMLInputElement>): void => {
    if (e.key === 'Escape') setText(initial);
    if (e.key === 'Enter') done();
  };
  return (
    <label className="flex items-center gap-1.5">
      {label}
      <input
        className={`${input} w-[150px]`}
        value={text}
        maxLength={1000}
        onChange={(e) => setText(e.target.value)}
        onBlur={done}
        onKeyDown={onKeyDown}
        {...rest}
      />
    </label>
  );
}
