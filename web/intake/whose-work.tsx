import { useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { useSetFileSource, useFileSource } from '../api/originals.ts';

/** Texts at the beginning of a file, that may say who made it; more are in the event list. */
const maxTexts = 5;

/** Whose work a file is: what it says itself, before any of it is taken, and where it is from, which is typed. */
export function WhoseWork({
  sha256,
  timing,
}: {
  /** Of the file; nothing where the source is another song. */
  readonly sha256: string | undefined;
  readonly timing: Pick<SongView['timing'], 'copyright' | 'texts'>;
}) {
  const texts = timing.texts.filter((t) => t.atTick === 0 && !t.text.startsWith('@'));
  return (
    <section aria-label="Copyright and source" className="mt-2 text-[12.5px]">
      {timing.copyright.map((notice) => (
        <p key={notice} className="break-words">
          <span className="text-faint">Copyright</span> {notice}
        </p>
      ))}
      {texts.slice(0, maxTexts).map(({ text }, n) => (
        <p key={n} className="break-words">
          <span className="text-faint">Text</span> {text}
        </p>
      ))}
      {sha256 !== undefined && <Typed key={sha256} sha256={sha256} />}
    </section>
  );
}

/** Where it is from: kept with the file as soon as the field is left, or Enter is pressed. */
function Typed({ sha256 }: { readonly sha256: string }) {
  const { data } = useFileSource(sha256);
  const set = useSetFileSource(sha256);
  const [typed, type] = useState<string>();
  const kept = data?.source ?? '';
  const keep = (): void => {
    const source = typed?.trim();
    if (source !== undefined && source !== kept) set.mutate(source);
    type(undefined);
  };
  return (
    <label className="mt-1 flex items-baseline gap-2">
      <span className="shrink-0 text-faint">Source</span>
      <input
        className="min-w-0 flex-1 rounded border border-line bg-sheet px-1.5 py-0.5"
        maxLength={500}
        placeholder="Page, person or licence. Delivery slips repeat it."
        value={typed ?? kept}
        onChange={(e) => type(e.target.value)}
        onBlur={keep}
        onKeyDown={(e) => {
          if (e.key === 'Enter') keep();
          else if (e.key === 'Escape' && typed !== undefined) {
            type(undefined);
            e.stopPropagation();
          }
        }}
      />
    </label>
  );
}
