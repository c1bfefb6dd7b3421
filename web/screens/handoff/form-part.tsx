import type { SongView } from '#contracts/songs.ts';
import { channelsOnSeveralPorts } from '#core/song/ports.ts';
import { textForms } from '#core/handoff/settings.ts';
import { count } from '../../components/text.ts';
import { Check } from '../../fields/check.tsx';
import { Choice } from '../../fields/choice.tsx';
import { input } from '../../fields/field.ts';
import type { Handing } from '../../state/handing-off.ts';
import { alike, inForm, type Setting } from './handing.ts';
import { NumberBox } from '../../fields/number-box.tsx';
import { Asked, Part } from './part.tsx';

type Format = Handing['format'];

const formatNames: readonly (readonly [Format, string])[] = [
  ['as-received', 'As received'],
  [1, 'Format 1'],
  [0, 'Format 0, all in one track'],
  ['karaoke', 'Karaoke order'],
];

/** In which form the files are: format, resolution, letters, ends. */
export function FormPart(setting: Setting) {
  const { song, handing, change } = setting;
  const { form } = handing;
  const set = inForm(setting);
  const { base } = setting;
  const changed = !alike(
    [handing.format, handing.runningStatus, handing.chunks, withoutTempo(form)],
    [base.format, base.runningStatus, base.chunks, withoutTempo(base.form)],
  );
  return (
    <Part name="Form" says={formWords(song, handing)} changed={changed}>
      <Asked says="Format">
        <Choice
          label="Format"
          hidden
          value={handing.format}
          options={formatNames}
          set={(format) => change({ format })}
        />
        <p className="mt-1 text-[12.5px] text-faint">{formatWords(song, handing.format)}</p>
        {handing.format === 0 && <PortsWarning song={song} />}
        {handing.format === 'karaoke' && (
          <Language value={form.language} set={(language) => set({ language })} />
        )}
      </Asked>
      <Asked says="Ticks a quarter">
        <NumberBox
          label="Ticks a quarter note"
          value={form.ppq}
          set={(ppq) => set({ ppq })}
          min={1}
          max={32767}
          empty="as it is"
          unit={form.ppq === null ? song.divisionText : ''}
        />
      </Asked>
      <Asked says="Letters">
        <Choice
          label="Letters of names and texts"
          hidden
          value={form.text}
          options={textForms.map((t) => [t, t === 'as they are' ? 'As they are' : t] as const)}
          set={(text) => set({ text })}
        />
      </Asked>
      <Longest {...setting} />
      <Shape {...setting} />
    </Part>
  );
}

/** How long names and marks may be. */
function Longest(setting: Setting) {
  const { form } = setting.handing;
  const set = inForm(setting);
  return (
    <Asked says="Longest">
      <div className="space-y-1">
        <NumberBox
          label="Letters of a track name"
          value={form.longestName}
          set={(longestName) => set({ longestName })}
          min={1}
          max={1000}
          empty="any"
          unit="letters of a track name"
        />
        <NumberBox
          label="Letters of a mark"
          value={form.longestMark}
          set={(longestMark) => set({ longestMark })}
          min={1}
          max={1000}
          empty="any"
          unit="letters of a mark"
        />
      </div>
    </Asked>
  );
}

/** Tempo and names of files have parts of their own. */
const withoutTempo = (form: Handing['form']): object => ({
  ...form,
  tempo: 0,
  bpm: 0,
  steps: 0,
  fileNames: 0,
  ending: 0,
});

/** What is a track, where they begin and end, and how they are written. */
function Shape(setting: Setting) {
  const { song, handing, change } = setting;
  const { form } = handing;
  const set = inForm(setting);
  return (
    <>
      <Asked says="Tracks">
        <div className="space-y-1.5">
          <Check
            checked={form.tracks === 'one'}
            set={(one) => set({ tracks: one ? 'one' : 'as they are' })}
          >
            One track for all channels, behind the map
          </Check>
          <Check
            checked={form.drums !== 'as they are'}
            set={(own) => set({ drums: own ? 'each its own track' : 'as they are' })}
          >
            Each drum its own track
          </Check>
        </div>
      </Asked>
      <Asked says="Start and end">
        <div className="space-y-1.5">
          <Check
            checked={form.start !== 'in its place'}
            set={(first) => set({ start: first ? 'with its first note' : 'in its place' })}
          >
            The first note at tick 0
          </Check>
          <Check
            checked={form.end === 'at the bar'}
            set={(bar) => set({ end: bar ? 'at the bar' : 'as it is' })}
          >
            Every track ends at a bar line
          </Check>
        </div>
      </Asked>
      <Asked says="Bytes">
        <div className="space-y-1.5">
          <Check checked={handing.runningStatus} set={(runningStatus) => change({ runningStatus })}>
            Running status
          </Check>
          {song.original.alienChunks.length > 0 && (
            <Check checked={handing.chunks} set={(chunks) => change({ chunks })}>
              {count(song.original.alienChunks.length, 'chunk')} of other kinds
            </Check>
          )}
        </div>
      </Asked>
    </>
  );
}

function formWords(song: SongView, { format, form }: Handing): string {
  return [
    formatNames.find(([f]) => f === format)![1],
    form.ppq === null ? song.divisionText : `${form.ppq} ticks a quarter`,
    form.text !== 'as they are' && form.text,
    form.tracks === 'one' && 'one track',
    form.drums !== 'as they are' && 'drums apart',
    form.end === 'at the bar' && 'ends at the bar',
  ]
    .filter(Boolean)
    .join(', ');
}

function formatWords(song: SongView, format: Format): string {
  const tracks = count(song.tracks.length, 'track');
  const named = song.tracks.slice(1).filter((t) => t.ownName).length;
  switch (format) {
    case 'as-received':
      return `Format ${song.receivedFormat === 1 ? 1 : 0}${song.original.wrapped ? ', in its wrapper' : ''}. Tracks that were not touched leave as their very bytes.`;
    case 1:
      return 'Each track its own.';
    case 0:
      return `All ${tracks} in one, for receivers that take no other.${named > 0 ? ` ${count(named, 'track name')} will become instrument names.` : ''}`;
    case 'karaoke':
      return 'Lyrics as texts in a track of their own, \\ before a page and / before a line.';
  }
}

/** Where one track has one port, parts that only their ports keep apart play one instrument. */
function PortsWarning({ song }: { song: SongView }) {
  const channels = channelsOnSeveralPorts(
    song.tracks.map((t) => ({ port: t.ports[0] ?? 0, channels: t.channels })),
  );
  if (channels.length === 0) return null;
  return (
    <p className="text-[12.5px] text-ochre">
      It has one port: parts of several ports on {channels.length === 1 ? 'channel' : 'channels'}{' '}
      {channels.join(', ')} would play one instrument. Give them channels of their own first (Set
      channels).
    </p>
  );
}

const Language = ({ value, set }: { value: string; set: (language: string) => void }) => (
  <label className="mt-1 flex items-baseline gap-2 text-[12.5px]">
    Language
    <input
      className={`${input} w-[74px]`}
      placeholder="ENGL"
      maxLength={8}
      value={value}
      onChange={(e) => set(e.target.value.toUpperCase().replace(/[^A-Z]/g, ''))}
    />
  </label>
);
