import type { ReactNode } from 'react';
import {
  letterSets,
  markKinds,
  type Letters,
  type Limits,
} from '#core/handoff/receiver/receiver.ts';
import { Check } from '../../fields/check.tsx';
import { asSaid, Choice } from '../../fields/choice.tsx';
import { input } from '../../fields/field.ts';
import { Pills } from '../../fields/pills.tsx';
import { NumberBox } from '../../fields/number-box.tsx';

interface Props {
  readonly limits: Limits;
  readonly set: (change: Partial<Limits>) => void;
}

type Flag = { [K in keyof Limits]: Limits[K] extends boolean ? K : never }[keyof Limits];

const Group = ({ title, children }: { title: string; children: ReactNode }) => (
  <fieldset className="grid grid-cols-[130px_minmax(0,1fr)] gap-x-4 border-b border-line py-3 last:border-b-0">
    <legend className="contents">
      <span className="font-medium">{title}</span>
    </legend>
    <div className="flex flex-col items-start gap-2">{children}</div>
  </fieldset>
);

/** What a receiver takes, in sentences that are completed. */
export function LimitsForm({ limits, set }: Props) {
  const flag = (key: Flag, says: string) => (
    <Check key={key} checked={limits[key]} set={(to) => set({ [key]: to })}>
      {says}
    </Check>
  );
  return (
    <>
      <Files limits={limits} set={set} />
      <Group title="Notes">
        {flag('notes', 'It takes notes.')}
        <Choice
          label="It plays drums"
          value={limits.drums}
          options={asSaid(['on any channel', 'on channel 10'] as const)}
          set={(drums) => set({ drums })}
        />
        {flag('keySwitches', 'It understands key switches; else they are heard as notes.')}
        <p>
          A key needs <Ms value={limits.gap} set={(gap) => set({ gap })} /> before it is struck
          again.
        </p>
      </Group>
      <Time limits={limits} set={set} flag={flag} />
      <Words limits={limits} set={set} flag={flag} />
      <Sound limits={limits} set={set} flag={flag} />
    </>
  );
}

const formats = [
  ['1', 'format 1, a track a part'],
  ['0', 'format 0, all in one track'],
  ['karaoke', 'karaoke order'],
] as const;

const formatOf = (said: string): Limits['formats'][number] =>
  said === 'karaoke' ? 'karaoke' : said === '0' ? 0 : 1;

function Files({ limits, set }: Props) {
  return (
    <Group title="Files">
      <div>
        <p>It opens</p>
        <Pills
          label="Formats that it opens"
          chosen={limits.formats.map(String)}
          options={formats}
          set={(now) => now.length > 0 && set({ formats: now.map(formatOf) })}
        />
      </div>
      <label className="block">
        with ticks a quarter note of{' '}
        <input
          key={limits.resolutions.join()}
          aria-label="Ticks a quarter note that it opens"
          className={`${input} w-[190px]`}
          placeholder="any; or some, as 96, 480"
          defaultValue={limits.resolutions.join(', ')}
          onBlur={(e) => set({ resolutions: numbersIn(e.target.value, 1, 32_767) })}
        />
      </label>
      <NumberBox
        label="Most ticks a quarter note"
        value={limits.finest}
        set={(finest) => set({ finest })}
        min={1}
        max={32_767}
        empty="any"
        unit="ticks a quarter note at most"
      />
      <Check checked={limits.frames} set={(frames) => set({ frames })}>
        It opens files whose ticks are parts of frames.
      </Check>
      <NumberBox
        label="Most tracks"
        value={limits.tracks}
        set={(tracks) => set({ tracks })}
        min={1}
        max={65_535}
        empty="any number"
        unit="tracks at most"
      />
      <NumberBox
        label="Most channels"
        value={limits.channels}
        set={(channels) => set({ channels: channels ?? 16 })}
        min={1}
        max={16}
        unit="channels"
      />
      <Check checked={limits.ports} set={(ports) => set({ ports })}>
        It knows ports, for more than sixteen channels.
      </Check>
      <FileNames limits={limits} set={set} />
    </Group>
  );
}

/** How many letters its file names have, and what they end in. */
const FileNames = ({ limits, set }: Props) => (
  <>
    <Choice
      label="Its file names have"
      value={limits.fileNames}
      options={[
        ['long', 'as many letters as systems take'],
        ['16', '16 letters of ASCII'],
        ['8.3', 'eight capitals and digits'],
      ]}
      set={(fileNames) => set({ fileNames })}
    />
    <label className="block">
      and end in{' '}
      <input
        aria-label="Ending of file names"
        className={`${input} w-[74px]`}
        value={limits.ending}
        maxLength={9}
        onChange={(e) =>
          set({ ending: `.${e.target.value.replace(/[^A-Za-z0-9]/g, '').slice(0, 8) || 'mid'}` })
        }
      />
    </label>
  </>
);

interface WithFlags extends Props {
  readonly flag: (key: Flag, says: string) => ReactNode;
}

function Time({ limits, set, flag }: WithFlags) {
  return (
    <Group title="Time">
      <Choice
        label="It follows"
        value={limits.tempo}
        options={[
          ['map', 'a tempo map'],
          ['one', 'the first tempo alone'],
          ['none', 'no tempo, but one of its own'],
        ]}
        set={(tempo) => set({ tempo })}
      />
      {limits.tempo === 'map' && (
        <NumberBox
          label="Most tempos a second"
          value={limits.temposASecond}
          set={(temposASecond) => set({ temposASecond })}
          min={0.1}
          max={1000}
          whole={false}
          empty="any number"
          unit="tempos a second at most"
        />
      )}
      {flag('meters', 'It takes meters.')}
      {flag('keys', 'It takes key signatures.')}
      {flag('timecode', 'It takes the start timecode.')}
      <Choice
        label="The music begins there"
        value={limits.start}
        options={[
          ['in its place', 'in its place'],
          ['with its first note', 'with its first note, whatever is before it'],
        ]}
        set={(start) => set({ start })}
      />
    </Group>
  );
}

function Words({ limits, set, flag }: WithFlags) {
  return (
    <Group title="Names and words">
      <div>
        <p>It shows as marks</p>
        <Pills
          label="Marks that it shows"
          chosen={limits.marks}
          options={asSaid(markKinds)}
          set={(marks) => set({ marks: marks as Limits['marks'][number][] })}
        />
      </div>
      <NumberBox
        label="Letters of a mark"
        value={limits.markLetters}
        set={(markLetters) => set({ markLetters })}
        min={1}
        max={1000}
        empty="any number"
        unit="letters of a mark at most"
      />
      {flag('sections', 'It knows sections as spans.')}
      {flag('trackNames', 'It takes track names.')}
      {flag('instrumentNames', 'It takes instrument names.')}
      <NumberBox
        label="Letters of a name"
        value={limits.nameLetters}
        set={(nameLetters) => set({ nameLetters })}
        min={1}
        max={1000}
        empty="any number"
        unit="letters of a name at most"
      />
      {flag('lyrics', 'It takes lyrics.')}
      {flag('words', 'It takes texts and copyright.')}
      <Choice
        label="It reads letters as"
        value={limits.letters}
        options={asSaid(letterSets, (l: Letters) => (l === 'any' ? 'what they are, by itself' : l))}
        set={(letters) => set({ letters })}
      />
    </Group>
  );
}

function Sound({ limits, set, flag }: WithFlags) {
  return (
    <Group title="Sound">
      <Programs limits={limits} set={set} />
      <Controllers limits={limits} set={set} />
      {flag('bend', 'It takes pitch bend.')}
      {flag('pressure', 'It takes pressure.')}
      {flag('exclusive', 'It takes system exclusive.')}
      {flag('specific', 'It keeps sequencer-specific events.')}
      {flag('chunks', 'It keeps chunks of other kinds.')}
    </Group>
  );
}

/** Which programs it takes; of a list that is begun the first is one. */
function Programs({ limits, set }: Props) {
  const { programList } = limits;
  const listed = programList.length > 0 ? programList : [{ program: 1, bank: null }];
  return (
    <>
      <Choice
        label="It takes programs:"
        value={limits.programs}
        options={[
          ['any', 'all, with banks'],
          ['General MIDI', 'those of General MIDI'],
          ['a list', 'those of a list'],
          ['none', 'none'],
        ]}
        set={(programs) => set({ programs, programList: programs === 'a list' ? listed : [] })}
      />
      {limits.programs === 'a list' && (
        <label className="block">
          programs{' '}
          <input
            key={programList.map((p) => p.program).join()}
            aria-label="Its programs"
            className={`${input} w-full`}
            defaultValue={programList.map((p) => p.program).join(', ')}
            onBlur={(e) => {
              const typed = numbersIn(e.target.value, 1, 128);
              const list = typed.map((program) => ({ program, bank: bankOf(limits, program) }));
              if (list.length > 0) set({ programList: list });
            }}
          />
        </label>
      )}
    </>
  );
}

/** Which controllers it takes; a list that is begun has those that nearly all take. */
function Controllers({ limits, set }: Props) {
  const { controllerList } = limits;
  const isList = (which: Limits['controllers']): boolean => which === 'only' || which === 'all but';
  const listed = controllerList.length > 0 ? controllerList : [7, 10, 11, 64];
  return (
    <>
      <Choice
        label="It takes controllers:"
        value={limits.controllers}
        options={[
          ['all', 'all'],
          ['only', 'only these'],
          ['all but', 'all but these'],
          ['none', 'none'],
        ]}
        set={(controllers) =>
          set({ controllers, controllerList: isList(controllers) ? listed : [] })
        }
      />
      {isList(limits.controllers) && (
        <input
          key={controllerList.join()}
          aria-label="Controllers by their numbers"
          className={`${input} w-full`}
          defaultValue={controllerList.join(', ')}
          onBlur={(e) => {
            const typed = numbersIn(e.target.value, 0, 119);
            if (typed.length > 0) set({ controllerList: typed });
          }}
        />
      )}
    </>
  );
}

const bankOf = ({ programList }: Limits, program: number): number | null =>
  programList.find((p) => p.program === program)?.bank ?? null;

const Ms = ({ value, set }: { value: number; set: (ms: number) => void }) => (
  <NumberBox
    label="Gap before a key is struck again"
    value={value}
    set={(ms) => set(ms ?? 0)}
    min={0}
    max={1000}
    whole={false}
    unit="ms"
  />
);

/** Numbers that were typed, each once, as far as they are in range. */
const numbersIn = (text: string, lowest: number, highest: number): number[] =>
  [...new Set((text.match(/\d+/g) ?? []).map(Number))]
    .filter((n) => n >= lowest && n <= highest)
    .sort((a, b) => a - b);
