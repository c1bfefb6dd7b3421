import { percussionChannel } from '../instruments/general-midi.ts';
import type { Events } from '../smf/events.ts';
import { notesOf } from '../song/notes.ts';
import { namedIn, type Named } from '../instruments/names.ts';

/** What a track says of itself beside its notes. */
export interface Said {
  readonly named: Named | undefined;
  readonly onDrums: boolean;
  /** From 0; undefined where none is said, or more than one. */
  readonly program: number | undefined;
}

/** What a track of this name says. */
export function saidBy(events: Events, name: string): Said {
  const programs = new Set<number>();
  for (let i = 0; i < events.count; i++)
    if (events.status[i]! >> 4 === 0xc && (events.status[i]! & 15) !== percussionChannel)
      programs.add(events.data1[i]!);
  const { on, count } = notesOf(events);
  let onDrums = count > 0;
  for (let n = 0; n < count && onDrums; n++)
    onDrums = (events.status[on[n]!]! & 15) === percussionChannel;
  const [program] = programs;
  return { named: namedIn(name), onDrums, program: programs.size === 1 ? program : undefined };
}
