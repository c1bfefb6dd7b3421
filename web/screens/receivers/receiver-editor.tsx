import { Download } from 'lucide-react';
import { useEffect, useState } from 'react';
import { urlOf } from '#contracts/addresses.ts';
import type { ReceiverView } from '#contracts/receivers.ts';
import { divisions, type Division } from '#core/handoff/settings.ts';
import { useRecipes } from '../../api/recipes.ts';
import { useRemoveReceiver, useSaveReceiver } from '../../api/receivers.ts';
import { Button, buttonLook } from '../../components/button.tsx';
import { Choice } from '../../fields/choice.tsx';
import { LimitsForm } from './limits-form.tsx';

/** What was begun and not saved, by receiver: it is there again when one comes back to it. */
const drafts = new Map<string, ReceiverView>();

const divided: Readonly<Record<Division, string>> = {
  whole: 'as one file',
  tracks: 'a file a track',
  groups: 'a file a group',
  drums: 'a file a drum',
  sections: 'a file a section',
  'sections-tracks': 'a file a track of each section',
  map: 'as the map alone',
};

/** A receiver whole: who it is, what it takes, and how files leave for it. */
export function ReceiverEditor({
  receiver,
  saved,
}: {
  receiver: ReceiverView;
  saved: (id: string) => void;
}) {
  const [edited, setEdited] = useState(drafts.get(receiver.id) ?? receiver);
  const save = useSaveReceiver();
  const changed = JSON.stringify(edited) !== JSON.stringify(receiver);
  useEffect(
    () => void (changed ? drafts.set(receiver.id, edited) : drafts.delete(receiver.id)),
    [changed, receiver.id, edited],
  );
  const change = (to: Partial<ReceiverView>): void => setEdited({ ...edited, ...to });
  const keep = (asNew: boolean): void => {
    const { id, shipped, ...said } = edited;
    save.mutate(
      { id: asNew ? undefined : id, receiver: { ...said, name: said.name.trim() } },
      {
        onSuccess: (r) => {
          drafts.delete(receiver.id);
          saved(r.id);
        },
      },
    );
  };
  const ready = edited.name.trim() !== '' && !save.isPending;
  return (
    <div className="mx-auto max-w-[820px]">
      <div className="flex items-start gap-3">
        <Who edited={edited} change={change} />
        <Keeping receiver={receiver} changed={changed} ready={ready} keep={keep} />
      </div>
      {receiver.shipped && (
        <p className="mb-1 text-[12.5px] text-faint">
          It comes along and stays as it is: what you change is saved as your own.
        </p>
      )}
      <LimitsForm
        limits={edited.takes}
        set={(limits) => change({ takes: { ...edited.takes, ...limits } })}
      />
      <Leaving edited={edited} change={change} />
    </div>
  );
}

interface PartProps {
  readonly edited: ReceiverView;
  readonly change: (to: Partial<ReceiverView>) => void;
}

const Who = ({ edited, change }: PartProps) => (
  <div className="min-w-0 flex-1">
    <input
      aria-label="Name"
      className="w-full rounded border border-transparent bg-transparent text-[19px] font-semibold hover:border-line focus:border-amber"
      value={edited.name}
      maxLength={200}
      onChange={(e) => change({ name: e.target.value })}
    />
    <textarea
      aria-label="Who or what it is"
      className="mt-1 w-full resize-none rounded border border-transparent bg-transparent text-faint hover:border-line focus:border-amber"
      rows={2}
      maxLength={500}
      placeholder="Who or what it is"
      value={edited.about}
      onChange={(e) => change({ about: e.target.value })}
    />
  </div>
);

/** How a song leaves for it, where nothing else is said. */
function Leaving({ edited, change }: PartProps) {
  const recipes = useRecipes().data ?? [];
  return (
    <fieldset className="grid grid-cols-[130px_minmax(0,1fr)] gap-x-4 py-3">
      <legend className="contents">
        <span className="font-medium">Leaving for it</span>
      </legend>
      <div className="space-y-2">
        <Choice
          label="A song leaves"
          value={edited.divide}
          options={divisions.map((d) => [d, divided[d]] as const)}
          set={(divide) => change({ divide })}
        />
        <div>
          <Choice
            label="packed"
            value={edited.packed}
            options={[
              ['files', 'as files'],
              ['satchel', 'as a satchel'],
              ['satchel with the song', 'as a satchel with the song as it is kept'],
            ]}
            set={(packed) => change({ packed })}
          />
        </div>
        <Choice
          label="with a recipe run on the copy:"
          value={edited.recipe?.name ?? ''}
          options={[
            ['', 'none'],
            ...(edited.recipe ? [[edited.recipe.name, edited.recipe.name] as const] : []),
            ...recipes
              .filter((r) => r.name !== edited.recipe?.name)
              .map((r) => [r.name, r.name] as const),
          ]}
          set={(name) => {
            const found = recipes.find((r) => r.name === name);
            if (name === '') change({ recipe: null });
            else if (found) {
              const { id, shipped, ...recipe } = found;
              change({ recipe });
            }
          }}
        />
      </div>
    </fieldset>
  );
}

interface KeepingProps {
  readonly receiver: ReceiverView;
  readonly changed: boolean;
  /** It has a name and nothing is on its way. */
  readonly ready: boolean;
  readonly keep: (asNew: boolean) => void;
}

/** One's own is saved or removed; one that comes along, or is new, is saved as one's own. */
function Keeping({ receiver, changed, ready, keep }: KeepingProps) {
  const remove = useRemoveReceiver();
  const own = receiver.id !== '' && !receiver.shipped;
  return (
    <div className="flex shrink-0 gap-1.5">
      {own && (
        <Button kind="next" disabled={!changed || !ready} onClick={() => keep(false)}>
          Save
        </Button>
      )}
      <Button kind={own ? 'plain' : 'next'} disabled={!ready} onClick={() => keep(true)}>
        {receiver.id === '' ? 'Save' : 'Save as your own'}
      </Button>
      {receiver.id !== '' && (
        <a className={buttonLook()} href={urlOf('getReceivers', {}, { ids: receiver.id })} download>
          <Download size={14} aria-hidden /> Export
        </a>
      )}
      {own && (
        <Button kind="quiet" onClick={() => remove.mutate(receiver)}>
          Remove
        </Button>
      )}
    </div>
  );
}
