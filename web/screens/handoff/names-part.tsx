import { useRef, useState } from 'react';
import { nameWords, usualPattern } from '#core/handoff/names.ts';
import { input } from '../../fields/field.ts';
import { Choice } from '../../fields/choice.tsx';
import { inForm, type Setting } from './handing.ts';
import { Asked, Part } from './part.tsx';

/** What the files are called: a pattern, whose words are put in where the cursor is. */
export function NamesPart(setting: Setting) {
  const { song, handing, base, change } = setting;
  const { fileNames, ending } = handing.form;
  const { box, pattern, usual, set, put, settled } = usePattern(setting);
  return (
    <Part
      name="Names"
      says={[pattern, fileNames !== 'long' && `${fileNames} letters`, ending]
        .filter(Boolean)
        .join(', ')}
      changed={
        (handing.names !== undefined && pattern !== usual) ||
        fileNames !== base.form.fileNames ||
        ending !== base.form.ending
      }
    >
      <input
        ref={box}
        aria-label="Pattern of the names"
        className={`${input} w-full`}
        maxLength={300}
        value={pattern}
        onChange={(e) => set(e.target.value)}
        onBlur={settled}
      />
      <Words put={put} />
      <Asked says="Letters">
        <Choice
          label="Letters of file names"
          hidden
          value={fileNames}
          options={styles}
          set={(to) => inForm(setting)({ fileNames: to })}
        />
      </Asked>
      <Asked says="Ending">
        <input
          aria-label="Ending of file names"
          className={`${input} w-[74px]`}
          maxLength={9}
          placeholder={handing.format === 'karaoke' ? '.kar' : '.mid'}
          value={ending ?? ''}
          onChange={(e) => inForm(setting)({ ending: endingIn(e.target.value) })}
        />
      </Asked>
      {pattern.includes('{version}') && (
        <Asked says="{version} says">
          <input
            aria-label="Version"
            className={`${input} w-full`}
            maxLength={60}
            placeholder={`${song.revision}, the number of the revision`}
            value={handing.version ?? ''}
            onChange={(e) => change({ version: e.target.value || undefined })}
          />
        </Asked>
      )}
    </Part>
  );
}

/** The pattern as it is typed: what would be none is not taken over until the field is left. */
function usePattern({ handing, change }: Setting) {
  const usual = usualPattern(handing.divide, handing.form.fileNames);
  const box = useRef<HTMLInputElement>(null);
  const [typed, setTyped] = useState<string>();
  const pattern = typed ?? handing.names ?? usual;
  const set = (text: string): void => {
    setTyped(text);
    const { names, ...rest } = handing;
    change(text === usual ? { ...rest, names: undefined } : { names: text });
  };
  const put = (word: string): void => {
    const { selectionStart, selectionEnd } = box.current!;
    const [from, to] = [selectionStart ?? pattern.length, selectionEnd ?? pattern.length];
    set(`${pattern.slice(0, from)}{${word}}${pattern.slice(to)}`);
    box.current!.focus();
  };
  return { box, pattern, usual, set, put, settled: () => setTyped(undefined) };
}

/** Words that stand for what is known of each file: pressed, one is put into the pattern. */
const Words = ({ put }: { put: (word: string) => void }) => (
  <div className="flex flex-wrap gap-1">
    {nameWords.map((word) => (
      <button
        key={word}
        type="button"
        className="rounded border border-line bg-sheet px-1.5 text-[12.5px] hover:border-stitch"
        title={meanings[word]}
        // The place in the pattern stays.
        onMouseDown={(e) => e.preventDefault()}
        onClick={() => put(word)}
      >
        {`{${word}}`}
      </button>
    ))}
  </div>
);

/** An ending of up to eight letters, as systems take it; null where none was typed. */
function endingIn(text: string): string | null {
  const letters = text.replace(/[^A-Za-z0-9]/g, '').slice(0, 8);
  return letters === '' ? null : `.${letters}`;
}

const styles = [
  ['long', 'As many as systems take'],
  ['16', '16 of ASCII'],
  ['8.3', 'Eight, for old devices'],
] as const;

const meanings: Readonly<Record<(typeof nameWords)[number], string>> = {
  song: 'Name of the song',
  track: 'Name of the track, group or drum',
  nn: 'Number of the file',
  instrument: 'What plays the track',
  bpm: 'Tempo where the file begins',
  key: 'Key where the file begins',
  section: 'Name of the section',
  version: 'Number of the revision, or what you type',
};
