import { create } from 'zustand';
import { SoundModule } from '#core/playing/sound-module.ts';

/** The sound module that comes along, and how often it has changed: what shows it looks again. */
interface ModuleState {
  readonly module: SoundModule;
  readonly changes: number;
}

export const useModule = create<ModuleState>(() => ({ module: new SoundModule(), changes: 0 }));

/** It shows what it has no oftener than this, in milliseconds. */
const shownEvery = 60;
let shown: ReturnType<typeof setTimeout> | undefined;

/** Takes a message when it is due, in milliseconds of the page's clock. */
export function toModule(bytes: readonly number[], at: number): void {
  const wait = at - performance.now();
  if (wait > 4) setTimeout(() => take(bytes, at), wait);
  else take(bytes, at);
}

function take(bytes: readonly number[], at: number): void {
  useModule.getState().module.receive(bytes, at);
  shown ??= setTimeout(() => {
    shown = undefined;
    useModule.setState(({ changes }) => ({ changes: changes + 1 }));
  }, shownEvery);
}

export const forgetModule = (): void =>
  useModule.setState({ module: new SoundModule(), changes: 0 });
