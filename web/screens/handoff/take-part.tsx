import { markForms, nothingHeard, type Leaving } from '#core/handoff/take-settings.ts';
import { count } from '../../components/text.ts';
import { Check } from '../../fields/check.tsx';
import { Choice } from '../../fields/choice.tsx';
import { input } from '../../fields/field.ts';
import { usualHanding } from '../../state/handing-off.ts';
import { alike, inTake, type Setting } from './handing.ts';
import { NumberBox } from '../../fields/number-box.tsx';
import { Asked, Part } from './part.tsx';

type Kind = { [K in keyof Leaving]: Leaving[K] extends boolean ? K : never }[keyof Leaving];

const kinds: readonly (readonly [heading: string, kinds: readonly (readonly [Kind, string])[]])[] =
  [
    [
      'Map',
      [
        ['tempo', 'Tempo map'],
        ['meters', 'Meters'],
        ['keys', 'Keys'],
        ['sections', 'Sections'],
        ['timecode', 'Start timecode'],
      ],
    ],
    [
      'Words',
      [
        ['lyrics', 'Lyrics'],
        ['texts', 'Texts'],
        ['copyright', 'Copyright'],
        ['trackNames', 'Track names'],
        ['instrumentNames', 'Instrument names'],
      ],
    ],
    [
      'Sound',
      [
        ['programs', 'Programs and banks'],
        ['volume', 'Volume'],
        ['pan', 'Pan'],
        ['reverb', 'Reverb send'],
        ['chorus', 'Chorus send'],
      ],
    ],
    [
      'Playing',
      [
        ['controllers', 'Other controllers'],
        ['bend', 'Pitch bend'],
        ['pressure', 'Pressure'],
      ],
    ],
    [
      'Devices',
      [
        ['exclusive', 'System exclusive'],
        ['specific', 'Sequencer-specific'],
        ['ports', 'Prefixes and ports'],
      ],
    ],
  ];

const markNames: Readonly<Record<(typeof markForms)[number], string>> = {
  'as they are': 'As they are',
  markers: 'All as markers',
  'cue points': 'All as cue points',
  texts: 'All as texts',
  none: 'None',
};

/** What of the song is in the files, kind by kind. */
export function TakePart(setting: Setting) {
  const { take } = setting.handing;
  const set = inTake(setting);
  return (
    <Part name="In or out" says={inWords(take)} changed={!alike(take, setting.base.take)}>
      {kinds.map(([heading, list]) => (
        <Asked key={heading} says={heading}>
          <div className="grid grid-cols-2 gap-x-2 gap-y-1">
            {list.map(([kind, says]) => (
              <Check key={kind} checked={take[kind]} set={(to) => set({ [kind]: to })}>
                {says}
              </Check>
            ))}
          </div>
        </Asked>
      ))}
      <Asked says="Markers">
        <Choice
          label="Markers and cue points"
          hidden
          value={take.markers}
          options={markForms.map((m) => [m, markNames[m]] as const)}
          set={(markers) => set({ markers })}
        />
      </Asked>
      <Asked says="Without">
        <input
          aria-label="Controllers left out, by their numbers"
          className={`${input} w-full`}
          placeholder="controllers by number, as 71, 74"
          defaultValue={take.without.join(', ')}
          key={take.without.join()}
          onBlur={(e) => set({ without: numbersIn(e.target.value) })}
        />
      </Asked>
      <Asked says="Channels">
        <Choice
          label="Channels"
          hidden
          value={typeof take.channels === 'string' ? take.channels : 'a list'}
          options={[
            ['as they are', 'As they are'],
            ['one each', 'One for each track'],
            ['a list', 'By a list'],
          ]}
          set={(to) => set({ channels: to === 'a list' ? [] : to })}
        />
        {typeof take.channels !== 'string' && <ChannelList {...setting} />}
      </Asked>
      <button
        type="button"
        className="rounded px-1 text-[12.5px] underline decoration-amber underline-offset-3"
        onClick={() => set({ ...justNotes, markers: take.markers, channels: take.channels })}
      >
        Just notes, names and the map
      </button>
    </Part>
  );
}

/** The channel that each track leaves on; one that is left empty keeps its own. */
function ChannelList(setting: Setting) {
  const { song, handing } = setting;
  const { channels } = handing.take;
  const list = typeof channels === 'string' ? [] : channels;
  const put = (track: string, channel: number | null): void => {
    const rest = list.filter((c) => c.track !== track);
    inTake(setting)({ channels: channel === null ? rest : [...rest, { track, channel }] });
  };
  return (
    <ul className="mt-1.5 max-h-[220px] space-y-1 overflow-auto pr-1">
      {song.tracks
        .filter((t) => t.channels.length > 0)
        .map((t) => (
          <li key={t.id} className="flex items-center justify-between gap-2">
            <span className="truncate">{t.name || `track ${song.tracks.indexOf(t) + 1}`}</span>
            <NumberBox
              label={`Channel of ${t.name || `track ${song.tracks.indexOf(t) + 1}`}`}
              value={list.find((c) => c.track === t.id)?.channel ?? null}
              set={(channel) => put(t.id, channel)}
              min={1}
              max={16}
              empty={t.channels.join(', ')}
            />
          </li>
        ))}
    </ul>
  );
}

/** Controllers that were typed: numbers, whatever stands between them. */
const numbersIn = (text: string): number[] =>
  [...new Set((text.match(/\d+/g) ?? []).map(Number))].filter((n) => n < 120).sort((a, b) => a - b);

const justNotes = { ...usualHanding.take, ...nothingHeard };

/** What is left out or changed, in one line. */
function inWords(take: Setting['handing']['take']): string {
  const out = kinds.flatMap(([, list]) => list).filter(([kind]) => !take[kind]).length;
  return [
    out === 0 ? 'everything' : `${count(out, 'kind')} left out`,
    take.without.length > 0 && `without ${count(take.without.length, 'controller')}`,
    take.markers !== 'as they are' && `marks: ${markNames[take.markers].toLowerCase()}`,
    take.channels === 'one each' && 'a channel each',
  ]
    .filter(Boolean)
    .join(', ');
}
