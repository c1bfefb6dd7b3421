import { Button } from '../../components/button.tsx';
import type { SongView } from '#contracts/songs.ts';
import { Choice } from '../../fields/choice.tsx';
import { input } from '../../fields/field.ts';
import { Radios } from '../../fields/radios.tsx';
import { tracksOf } from '../../intake/bring-model.ts';
import type { Layout } from '../../intake/layout.ts';

/** How several files come in. */
export function Several({
  song,
  layout,
  set,
  forAll,
}: {
  song: SongView;
  layout: Layout;
  set: (layout: Layout) => void;
  /** What is chosen for the file that is shown is chosen for all. */
  forAll: () => void;
}) {
  return (
    <fieldset className="mb-3">
      <legend className="mb-1 font-semibold">Several</legend>
      <Radios
        label="Several"
        value={layout.way}
        set={(way) => set({ ...layout, way })}
        options={[
          { value: 'each', says: 'Each to its own place' },
          { value: 'behind', says: 'One behind the other' },
        ]}
      />
      {layout.way === 'behind' && (
        <div className="mt-1 space-y-1 pl-5">
          <label className="flex items-center gap-2">
            Bars between
            <input
              type="number"
              className={`${input} num w-[60px]`}
              min={0}
              max={999}
              value={layout.gap}
              onChange={(e) =>
                set({
                  ...layout,
                  gap: Math.max(0, Math.min(999, Math.round(Number(e.target.value)))),
                })
              }
            />
          </label>
          <Choice
            label="On"
            value={layout.onto ?? ''}
            options={[['', 'tracks of their own'], ...tracksOf(song)]}
            set={(to) => set({ ...layout, onto: to || undefined })}
          />
        </div>
      )}
      <Button
        className="mt-1.5"
        onClick={forAll}
        title="What comes in beside the notes, what of the map, and what is kept"
      >
        The choices below for all files
      </Button>
    </fieldset>
  );
}
