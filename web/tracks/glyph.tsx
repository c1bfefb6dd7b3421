import {
  AudioLines,
  AudioWaveform,
  Bell,
  Drum,
  Guitar,
  KeyboardMusic,
  Map,
  MicVocal,
  Music,
  Piano,
  Sparkles,
  Wind,
  type LucideIcon,
} from 'lucide-react';
import type { TrackView } from '#contracts/songs.ts';

/** What of a track says what plays it. */
type Played = Pick<TrackView, 'channel' | 'programs' | 'notes' | 'instrument'>;

const families: readonly LucideIcon[] = [
  Piano,
  Bell,
  KeyboardMusic,
  Guitar,
  Guitar,
  AudioLines,
  MicVocal,
  Wind,
  Wind,
  Wind,
  AudioWaveform,
  AudioWaveform,
  Sparkles,
  Music,
  Drum,
  Sparkles,
];

/** Family of the part's first instrument, as a sign; drums by their channel. */
export function FamilyGlyph({ track, map }: { track: Played; map: boolean }) {
  const program = track.programs[0];
  const Icon = map
    ? Map
    : track.channel === 10
      ? Drum
      : program
        ? families[(program.program - 1) >> 3]!
        : Music;
  return <Icon size={15} className="shrink-0 text-faint" aria-hidden />;
}

/** What the part plays on, in words. */
export function instrumentText(track: Played, map: boolean): string {
  if (map) return 'tempo and meters';
  const defined = track.instrument?.name;
  if (track.channel === 10) return defined ?? 'drums';
  const [first, ...more] = track.programs.map((p) => p.name);
  const names = [...new Set(first === undefined ? [] : [defined ?? first, ...more])];
  if (names.length === 0) return track.notes > 0 ? 'no program' : 'no notes';
  return names.length > 2 ? `${names[0]} and ${names.length - 1} more` : names.join(', then ');
}
