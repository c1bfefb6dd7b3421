import { Choice } from './choice.tsx';
import { input } from './field.ts';

type At = { readonly own: true } | { readonly bar: number } | { readonly timecode: string };

/** Where something that comes in begins: at its own bars, at a bar, or at a timecode. */
export function LandingField({
  title,
  value,
  set,
}: {
  title: string;
  value: unknown;
  set: (value: At) => void;
}) {
  const at = (value ?? { own: true }) as At;
  const way = 'bar' in at ? 'bar' : 'timecode' in at ? 'timecode' : 'own';
  return (
    <div className="flex flex-wrap items-center gap-2">
      <Choice
        label={title}
        value={way}
        options={[
          ['own', 'its own bars'],
          ['bar', 'a bar'],
          ['timecode', 'a timecode'],
        ]}
        set={(to) =>
          set(to === 'own' ? { own: true } : to === 'bar' ? { bar: 1 } : { timecode: '' })
        }
      />
      {'bar' in at && (
        <input
          type="number"
          aria-label={`${title}: bar`}
          className={`${input} num w-[76px]`}
          min={1}
          value={at.bar}
          onChange={(e) => set({ bar: Math.max(1, Math.round(Number(e.target.value)) || 1) })}
        />
      )}
      {'timecode' in at && (
        <input
          aria-label={`${title}: timecode`}
          className={`${input} num w-[112px]`}
          placeholder="hh:mm:ss:ff"
          maxLength={20}
          value={at.timecode}
          onChange={(e) => set({ timecode: e.target.value })}
        />
      )}
    </div>
  );
}
