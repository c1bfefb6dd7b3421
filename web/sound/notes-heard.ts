import type { NoteHeard } from './messages.ts';

/** Who wants to know what sounds of the track that is watched. */
type Listener = (note: NoteHeard) => void;
const listeners = new Set<Listener>();

export function onNotesHeard(listener: Listener): () => void {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

/** Tells of notes when they come out of the loudspeaker, not when they were made. */
export function hearNotes(
  notes: readonly NoteHeard[],
  context: AudioContext,
  heldBack: number,
): void {
  const late = heldBack + (context.outputLatency || 0);
  for (const note of notes) {
    const wait = (note.at + late - context.currentTime) * 1000;
    if (wait < 4) tell(note);
    else setTimeout(() => tell(note), wait);
  }
}

function tell(note: NoteHeard): void {
  for (const listener of listeners) listener(note);
}
