import { expose, transfer } from 'comlink';
import { clickFile } from '#core/timing/click-track.ts';

const make = (...asked: Parameters<typeof clickFile>): ReturnType<typeof clickFile> => {
  const made = clickFile(...asked);
  return typeof made === 'string' ? made : transfer(made, [made.buffer]);
};
export type ClickMaker = typeof make;

expose(make);
