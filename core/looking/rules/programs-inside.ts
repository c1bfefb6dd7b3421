import type { Events } from '../../smf/events.ts';
import { on, type Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

export function programsInside({ parts, barAt }: LookedSong): Noticed[] {
  return parts.flatMap((t): Noticed[] => {
    const { events } = t.track;
    const firstNote = events.atTick[t.notes.on[0]!]!;
    const { changes, sounds } = soundsOf(events);
    const inside = changes.filter((tick) => tick > firstNote);
    if (inside.length === 0) return [];
    return [
      {
        title: `${t.label} changes its program inside the piece${inside.length > 1 ? `, ${inside.length} times` : ''}`,
        why: 'Written for the instrument it was made on; on another one the part suddenly plays with a wrong sound.',
        tracks: [t.id], bars: { from: barAt(inside[0]!), to: barAt(inside.at(-1)!) }, count: inside.length, sure: 'likely',
        settle: [
          { title: 'Keep the first only', operation: 'events.remove', settings: { kinds: ['programs', 'banks'], keepFirst: true }, scope: on(t.id) },
          // A part is not left without its only program.
          ...(sounds > 1 ? [{ title: 'Take all out', operation: 'events.remove', settings: { kinds: ['programs', 'banks'] }, scope: on(t.id) }] : []),
        ],
      },
    ];
  });
}

const [bankCoarse, bankFine] = [0, 32];

/** Ticks at which another program, or the same of another bank, begins on a channel: what states again what is in force is no change. And how many there are. */
function soundsOf({ count, status, data1, data2, atTick }: Events): { changes: number[]; sounds: number } {
  const bank = new Uint16Array(16);
  const inForce = new Int32Array(16).fill(-1);
  const changes: number[] = [];
  const sounds = new Set<number>();
  for (let i = 0; i < count; i++) {
    const [kind, channel] = [status[i]! >> 4, status[i]! & 15];
    if (kind === 0xb && data1[i] === bankCoarse) bank[channel] = (data2[i]! << 7) | (bank[channel]! & 127);
    else if (kind === 0xb && data1[i] === bankFine) bank[channel] = (bank[channel]! & ~127) | data2[i]!;
    else if (kind === 0xc) {
      // A bank counts from the next program on (MIDI 1.0).
      const sound = (channel << 21) | (bank[channel]! << 7) | data1[i]!;
      if (sound !== inForce[channel]) changes.push(atTick[i]!);
      inForce[channel] = sound;
      sounds.add(sound);
    }
  }
  return { changes, sounds: sounds.size };
}
