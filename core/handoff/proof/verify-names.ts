import { payloadOf } from '../../smf/events.ts';
import type { Song, Track } from '../../song/song.ts';
import { tempoAt, tempoMap } from '../../timing/tempo-map.ts';
import { tempoToBpm } from '../../units/units.ts';
import type { PlannedFile } from '../plan.ts';
import type { Wanted } from '../settings.ts';
import { kindOf, type EventKind } from './reading/event-kind.ts';
import { isCalled, type SaidInName } from './reading/file-name.ts';
import { readLabel } from './reading/read-text.ts';
import { readSongMap, type SectionMark } from './reading/song-map.ts';

/** Files, and what their names are read from. */
export interface NamesCase {
  readonly sent: Song;
  readonly files: readonly PlannedFile[];
  readonly wanted: Wanted;
  readonly sections: readonly SectionMark[];
}

/** Stands for anything in a pattern: sounds and keys have names of many sorts, and a revision is not at hand. */
const anything = '{anything}';

/**
 * Whether files are called what was asked for. Where no pattern was asked for, what tells the files apart has to
 * be there: the track, the section, else the song.
 */
export function verifyNames(of: NamesCase): string[] {
  const { wanted, files, sections } = of;
  const pattern = wanted.names ?? chooseMinPattern(wanted);
  const words = pattern.split(/(\{\w+\})/);
  const nameOf = namesOfTracks(of);
  const bpmAt = bpmsOf(of.sent);
  return files.flatMap((file, place) => {
    const said = new Map([...factsOf(of), ['{nn}', numberOf(place, files.length)]]);
    const isRight = sectionsOf(file, wanted, sections).some((section) =>
      tracksOf(file, wanted, nameOf).some((track) => {
        said
          .set('{section}', section)
          .set('{track}', track)
          .set('{bpm}', bpmAt(file.span?.from ?? 0));
        const texts = words.map((w): SaidInName => (w.startsWith('{') ? said.get(w) : w));
        return isCalled(file.name, texts, wanted.form.fileNames);
      }),
    );
    return isRight
      ? []
      : [`the file ${file.name} is not called ${wanted.names ?? 'what it holds'}`];
  });
}

function chooseMinPattern({ divide }: Wanted): string {
  if (divide === 'whole' || divide === 'map') return `{song}${anything}`;
  if (divide === 'sections') return `${anything}{section}`;
  return divide === 'sections-tracks' ? `${anything}{section}{track}` : `${anything}{track}`;
}

const factsOf = ({ sent, wanted: { version } }: NamesCase): [string, string][] => [
  ['{song}', sent.title],
  ...(version === undefined ? [] : [['{version}', version] as [string, string]]),
];

const numberOf = (place: number, files: number): string =>
  `${place + 1}`.padStart(Math.max(2, `${files}`.length), '0');

/** Tempos as names say them; frames have none. */
function bpmsOf(sent: Song): (tick: number) => string {
  if (sent.division.kind === 'smpte') return () => '';
  const map = tempoMap(readSongMap(sent).tempos, sent.division);
  return (tick) => `${Number(tempoToBpm(tempoAt(map, tick)).toFixed(2))}`;
}

/** The sections that a file may be of: two may have the same bars. */
const sectionsOf = (
  { span }: PlannedFile,
  { divide }: Wanted,
  sections: readonly SectionMark[],
): string[] =>
  divide === 'sections' || divide === 'sections-tracks'
    ? sections
        .filter((s) => s.fromTick === span?.from && s.toTick === span.to)
        .map(({ name }) => name)
    : [''];

/** The track that a file is of, or the groups: two may hold the same tracks. */
function tracksOf(
  { tracks }: PlannedFile,
  { divide, groups }: Wanted,
  nameOf: (id: string) => string,
): string[] {
  switch (divide) {
    case 'groups':
      return groups.filter((g) => g.tracks.every((id) => tracks?.has(id))).map((g) => g.name);
    case 'tracks':
    case 'drums':
    case 'sections-tracks':
      return [...(tracks ?? [])].map(nameOf);
    default:
      return [''];
  }
}

/** What tracks are called: by their name, else by their instrument's (SMF 1.0), else by their place. */
function namesOfTracks({ sent }: NamesCase): (id: string) => string {
  const places = new Map(sent.tracks.map(({ id }, place) => [id, place]));
  const known = new Map<string, string>();
  return (id) => {
    const place = places.get(id) ?? -1;
    const track = sent.tracks[place];
    const name =
      known.get(id) ??
      (track && (labelIn(track, 'track name', sent) || labelIn(track, 'instrument name', sent))) ??
      '';
    known.set(id, name);
    return name || `track ${place + 1}`;
  };
}

function labelIn({ events }: Track, kind: EventKind, { encoding }: Song): string {
  for (let row = 0; row < events.count; row++)
    if (kindOf(events, row) === kind) return readLabel(payloadOf(events, row), encoding);
  return '';
}
