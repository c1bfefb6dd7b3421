import type { Page } from '@playwright/test';
import { frames } from './settled.ts';

/** The page as it is, with an ear at what goes to the loudspeakers. */
export const ear = (): void => {
  const connect = AudioNode.prototype.connect as (this: AudioNode, to: AudioNode) => AudioNode;
  AudioNode.prototype.connect = function (this: AudioNode, to: AudioNode) {
    if (to === this.context.destination) {
      Object.assign(globalThis, { soundClock: () => this.context.currentTime });
      const analyser = new AnalyserNode(this.context as AudioContext, {
        fftSize: 2048,
        smoothingTimeConstant: 0,
      });
      connect.call(this, analyser);
      const hertz = this.context.sampleRate / 2048;
      Object.assign(globalThis, {
        loudness: () =>
          ((samples) => (
            analyser.getFloatTimeDomainData(samples),
            Math.max(...samples.map(Math.abs))
          ))(new Float32Array(2048)),
        // The spectral centroid in Hz: the mean of the frequencies, each as much as it is there.
        brightness: () => {
          const decibels = new Float32Array(1024);
          analyser.getFloatFrequencyData(decibels);
          const amounts = [...decibels].map((d) => 10 ** (d / 20));
          const sum = amounts.reduce((all, one) => all + one, 0);
          return amounts.reduce((all, one, n) => all + one * n * hertz, 0) / sum;
        },
      });
    }
    return connect.call(this, to);
  } as typeof AudioNode.prototype.connect;
};

interface Ear {
  readonly soundClock?: () => number;
  readonly loudness?: () => number;
  readonly brightness?: () => number;
}

/** How bright what is heard is, in Hz: the middle of some looks at it while it sounds; 0 where nothing does. */
export async function brightnessOf(page: Page): Promise<number> {
  const heard: number[] = [];
  for (let i = 0; i < 30; i++) {
    const now = await page.evaluate(() => {
      const { loudness, brightness } = globalThis as unknown as Ear;
      return (loudness?.() ?? 0) > 0.005 ? (brightness?.() ?? 0) : 0;
    });
    if (now > 0) heard.push(now);
    await frames(page, 3);
  }
  return heard.sort((a, b) => a - b)[heard.length >> 1] ?? 0;
}

/** Seconds of sound that went to the loudspeakers: on a busy machine fewer than on a clock on the wall. */
export const soundSeconds = (page: Page): Promise<number> =>
  page.evaluate(() => (globalThis as unknown as Ear).soundClock?.() ?? 0);

/** The loudest of what is heard within a second, 0 to 1. */
export async function loudnessOf(page: Page): Promise<number> {
  let most = 0;
  for (let i = 0; i < 20; i++) {
    most = Math.max(
      most,
      await page.evaluate(() => (globalThis as unknown as Ear).loudness?.() ?? 0),
    );
    await frames(page, 3);
  }
  return most;
}
