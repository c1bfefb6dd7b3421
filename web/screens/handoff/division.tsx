import type { Division } from '#core/handoff/settings.ts';
import { input } from '../../fields/field.ts';
import { Radios } from '../../fields/radios.tsx';
import type { Setting } from './handing.ts';
import { Part } from './part.tsx';

const divisions: readonly { value: Division; says: string; about: string }[] = [
  { value: 'whole', says: 'One file', about: 'everything that was chosen' },
  { value: 'tracks', says: 'A file a track', about: 'all of one start and length' },
  { value: 'groups', says: 'A file a group', about: 'several tracks to one file' },
  { value: 'drums', says: 'A file a drum', about: 'each key of the drum channel' },
  { value: 'sections', says: 'A file a section', about: 'whatever plays in it' },
  { value: 'sections-tracks', says: 'A file a track of each section', about: '' },
  { value: 'map', says: 'The map alone', about: 'tempos, meters, keys, markers, length' },
];

/** Into which files it is divided. */
export function DivisionPart(setting: Setting) {
  const { handing, change } = setting;
  const now = divisions.find((d) => d.value === handing.divide)!;
  return (
    <Part name="Divided" says={now.says} changed={handing.divide !== setting.base.divide}>
      <Radios
        label="Divided into"
        value={handing.divide}
        options={divisions.map(({ value, says, about }) => ({
          value,
          says,
          about: about && <span className="text-[12.5px] text-faint">, {about}</span>,
        }))}
        set={(divide) => change({ divide })}
      />
      {handing.divide === 'groups' && <Groups {...setting} />}
    </Part>
  );
}

/** The group of each track, by name: tracks of one name go into one file. */
function Groups({ song, handing, change }: Setting) {
  const names = [...new Set(Object.values(handing.groupOf).map((n) => n.trim()))].filter(Boolean);
  const tracks = song.tracks.slice(song.mapTrack ? 1 : 0);
  return (
    <div>
      <p className="mb-1 text-[12.5px] text-faint">
        Type the group beside a track. Tracks without one stay here.
      </p>
      <datalist id="handoff-groups">
        {names.map((name) => (
          <option key={name} value={name} />
        ))}
      </datalist>
      <ul className="max-h-[260px] space-y-1 overflow-auto pr-1">
        {tracks.map((t) => {
          const called = t.name || `track ${song.tracks.indexOf(t) + 1}`;
          return (
            <li key={t.id} className="grid grid-cols-[minmax(0,1fr)_140px] items-center gap-2">
              <span className="truncate">{called}</span>
              <input
                aria-label={`Group of ${called}`}
                className={`${input} min-w-0`}
                list="handoff-groups"
                maxLength={120}
                value={handing.groupOf[t.id] ?? ''}
                onChange={(e) =>
                  change({ groupOf: { ...handing.groupOf, [t.id]: e.target.value } })
                }
              />
            </li>
          );
        })}
      </ul>
    </div>
  );
}
