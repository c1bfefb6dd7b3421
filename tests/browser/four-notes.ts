import type { Page } from '@playwright/test';
import { channelEvent, meta, metaEvent } from '#core/smf/events.ts';
import { eventsFrom } from '#core/smf/event-builder.ts';
import { encodeText } from '#core/smf/text.ts';
import { writeSmf } from '#core/smf/write.ts';

/** Four notes a bar apart at 96 PPQ, a quarter long, and some expression. */
export function fourNotes(): Uint8Array {
  const notes = [60, 62, 64, 65].flatMap((key, i) => [
    channelEvent(i * 384, 0x90, key, 60 + i),
    channelEvent(i * 384 + 96, 0x80, key, 64),
  ]);
  const map = eventsFrom([
    metaEvent(0, meta.tempo, Uint8Array.of(7, 0xa1, 0x20)),
    metaEvent(1536, meta.endOfTrack),
  ]);
  const part = eventsFrom([
    metaEvent(0, meta.trackName, encodeText('Oboe')),
    ...Array.from({ length: 32 }, (_, i) => channelEvent(i * 48, 0xb0, 11, 40 + i)),
    ...notes,
    metaEvent(1536, meta.endOfTrack),
  ]);
  return writeSmf({
    format: 1,
    division: { kind: 'ppq', ticksPerQuarter: 96 },
    headerExtra: new Uint8Array(0),
    tracks: [{ events: map }, { events: part }],
    alienChunks: [],
  });
}

/** The place of a tick and a key on the plane: four bars and a little are in view. */
export async function placeOfNote(
  page: Page,
  tick: number,
  key: number,
): Promise<{ x: number; y: number }> {
  const box = (await page.getByRole('application').boundingBox())!;
  // Sixteen bars are shown at first, whatever the length; the keys lie in the middle.
  const rows = Math.min(14, Math.max(5, box.height / (65 - 60 + 9)));
  const top = (60 + 65 + box.height / rows) / 2;
  return { x: box.x + (tick / (16 * 384)) * box.width, y: box.y + (top - key + 0.5) * rows };
}
