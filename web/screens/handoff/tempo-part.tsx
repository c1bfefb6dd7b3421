import { Check } from '../../fields/check.tsx';
import { Radios } from '../../fields/radios.tsx';
import type { Handing } from '../../state/handing-off.ts';
import { alike, inForm, type Setting } from './handing.ts';
import { NumberBox } from '../../fields/number-box.tsx';
import { Asked, Part } from './part.tsx';

const maps: readonly { value: Handing['form']['tempo']; says: string; about: string }[] = [
  { value: 'as it is', says: 'As it is', about: '' },
  {
    value: 'one, as it sounds',
    says: 'One tempo, as it sounds',
    about: 'every event is placed anew',
  },
  { value: 'one, in its bars', says: 'One tempo, in its bars', about: 'it sounds otherwise' },
];

/** The tempo map for receivers that read none, or not as many tempos. */
export function TempoPart(setting: Setting) {
  const { tempo, bpm, steps } = setting.handing.form;
  const set = inForm(setting);
  const one = tempo !== 'as it is';
  const now = maps.find((m) => m.value === tempo)!;
  const few = steps ? `, within ${steps.error} ms` : '';
  return (
    <Part
      name="Tempo"
      says={`${now.says.toLowerCase()}${few}`}
      changed={
        tempo !== setting.base.form.tempo || bpm !== null || !alike(steps, setting.base.form.steps)
      }
    >
      <Radios
        label="Tempo map"
        value={tempo}
        options={maps.map(({ value, says, about }) => ({
          value,
          says,
          about: about && <span className="text-[12.5px] text-faint">, {about}</span>,
        }))}
        set={(to) => set({ tempo: to })}
      />
      {one && (
        <Asked says="That tempo">
          <NumberBox
            label="That tempo"
            value={bpm}
            set={(to) => set({ bpm: to })}
            min={4}
            max={1000}
            whole={false}
            empty={tempo === 'one, as it sounds' ? 'the first' : 'the mean'}
            unit="BPM of the quarter"
          />
        </Asked>
      )}
      {!one && (
        <Check
          checked={steps !== null}
          set={(fewer) => set({ steps: fewer ? { error: 1, perSecond: null } : null })}
          says="For receivers that follow few tempos."
        >
          Gradual changes in fewer steps
        </Check>
      )}
      {!one && steps && <Few steps={steps} set={(to) => set({ steps: to })} />}
    </Part>
  );
}

type Steps = NonNullable<Handing['form']['steps']>;

/** How far gradual changes in fewer steps may be off, and how close together tempos may stand. */
const Few = ({ steps, set }: { steps: Steps; set: (steps: Steps) => void }) => (
  <>
    <Asked says="Largest error">
      <NumberBox
        label="Largest error"
        value={steps.error}
        set={(error) => set({ ...steps, error: error ?? 1 })}
        min={0.05}
        max={1000}
        whole={false}
        unit="ms"
      />
    </Asked>
    <Asked says="At most">
      <NumberBox
        label="Most tempos a second"
        value={steps.perSecond}
        set={(perSecond) => set({ ...steps, perSecond })}
        min={0.1}
        max={1000}
        whole={false}
        empty="any"
        unit="tempos a second"
      />
    </Asked>
  </>
);
