import { wrap, type Remote } from 'comlink';
import type { SongView } from '#contracts/songs.ts';
import type { ClickFile } from '#core/timing/click-track.ts';
import type { Maps } from '#core/song/maps.ts';
import type { ClickMaker } from '../desk/click.worker.ts';

let maker: Remote<ClickMaker> | undefined;

/** The click of a song as a WAV file, made beside the page. */
export async function makeClick(
  { timing, division }: SongView,
  { tempos }: Maps,
  settings: ClickFile,
): Promise<Uint8Array<ArrayBuffer> | 'too long' | 'no length'> {
  maker ??= wrap<ClickMaker>(
    new Worker(new URL('../desk/click.worker.ts', import.meta.url), { type: 'module' }),
  );
  const meters = timing.meters.map(({ atTick, numerator, denominator }) => ({
    atTick,
    numerator,
    denominator,
  }));
  return (await maker({ meters, tempos, division, endTick: timing.endTick }, settings)) as
    Uint8Array<ArrayBuffer> | 'too long' | 'no length';
}
