import { firstNotes } from '../../edit/first-notes.ts';
import type { Events } from '../../smf/events.ts';
import { onTracks, type Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

export function programsInside({ parts, barAt }: LookedSong): Noticed[] {
  return parts.flatMap((t): Noticed[] => {
    const changes = soundsOf(t.track.events);
    const inside = changes.filter((c) => c.inside);
    if (inside.length === 0) return [];
    const begun = new Set(changes.filter((c) => !c.inside).map((c) => c.channel));
    const sounds = new Set(changes.map((c) => c.sound)).size;
    return [
      {
        title: `${t.label} changes its program inside the piece${inside.length > 1 ? `, ${inside.length} times` : ''}`,
        why: 'Written for the instrument it was made on; on another one the part suddenly plays with a wrong sound.',
        tracks: [t.id],
        bars: { from: barAt(inside[0]!.tick), to: barAt(inside.at(-1)!.tick) },
        count: inside.length,
        sure: 'likely',
        settle: [
          // A part is not left without its only program, and what it begins with is the first only where it
          // stands before the notes.
          ...(inside.every((c) => begun.has(c.channel))
            ? [
                {
                  title: 'Keep the first only',
                  operation: 'events.remove',
                  settings: { kinds: ['programs', 'banks'], keepFirst: true },
                  scope: onTracks(t.id),
                },
              ]
            : []),
          ...(sounds > 1
            ? [
                {
                  title: 'Take all out',
                  operation: 'events.remove',
                  settings: { kinds: ['programs', 'banks'] },
                  scope: onTracks(t.id),
                },
              ]
            : []),
        ],
      },
    ];
  });
}

const [bankCoarse, bankFine] = [0, 32];

/**
 * Where another program begins, or the same of another bank. `inside`: after the first note of its channel.
 * `sound`: channel, bank and program in one number.
 */
interface SoundChange {
  readonly tick: number;
  readonly channel: number;
  readonly sound: number;
  readonly inside: boolean;
}

/**
 * Changes of sound, in order: what states again what is in force is none, and on a channel without notes
 * nobody hears them.
 */
function soundsOf(events: Events): SoundChange[] {
  const { count, status, data1, data2, atTick } = events;
  const begins = firstNotes(events);
  const bank = new Uint16Array(16);
  const inForce = new Int32Array(16).fill(-1);
  const changes: SoundChange[] = [];
  for (let i = 0; i < count; i++) {
    const [kind, channel] = [status[i]! >> 4, status[i]! & 15];
    if (kind === 0xb && data1[i] === bankCoarse)
      bank[channel] = (data2[i]! << 7) | (bank[channel]! & 127);
    else if (kind === 0xb && data1[i] === bankFine)
      bank[channel] = (bank[channel]! & ~127) | data2[i]!;
    else if (kind === 0xc) {
      // A bank counts from the next program on (MIDI 1.0).
      const sound = (channel << 21) | (bank[channel]! << 7) | data1[i]!;
      if (sound !== inForce[channel])
        changes.push({ tick: atTick[i]!, channel, sound, inside: atTick[i]! > begins(status[i]!) });
      inForce[channel] = sound;
    }
  }
  return changes;
}
