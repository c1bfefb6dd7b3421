import type { Setting } from './setting-of.ts';

/**
 * What became of an event of the song on its way, as a number, so that millions are held in a column: not asked
 * for; the same; changed in some ways, a bit each; or not there, and as what that is told.
 */
export const notAsked = -1;
export const same = 0;

/** Ways in which an event arrives changed. */
export const aspects = [
  'places',
  'rounding',
  'time',
  'lengths',
  'velocities',
  'pitches',
  'channels',
  'drums',
  'keySwitches',
  'kits',
  'ports',
  'elsewhere',
  'value',
  'letters',
  'cut',
  'form',
] as const;
export type Aspect = (typeof aspects)[number];
export const bit = Object.fromEntries(aspects.map((a, n) => [a, 1 << n])) as Readonly<
  Record<Aspect, number>
>;

/** Ways that are told as a change of the event's own kind. */
export const ofItsKind = ['value', 'letters', 'cut', 'form'] as const satisfies readonly Aspect[];

/** What is told as not there: a kind of event, or why others are not. */
export const losses = [
  'tempo',
  'meters',
  'keys',
  'markers',
  'sections',
  'texts',
  'lyrics',
  'timecode',
  'copyright',
  'programs',
  'banks',
  'volume',
  'pan',
  'reverb',
  'chorus',
  'controllers',
  'bend',
  'pressure',
  'exclusive',
  'specific',
  'ports',
  'trackNames',
  'instrumentNames',
  'notes',
  'gap',
  'highChannels',
  'moreTracks',
  'files',
  'other',
] as const satisfies readonly (Setting | string)[];
export type Loss = (typeof losses)[number];

const lostBase = 1 << 20;
const places = new Map<Loss, number>(losses.map((l, n) => [l, n]));

/** @param byReceiver the files hold it, or would in vain: the receiver does not take it */
export const lost = (loss: Loss, byReceiver: boolean): number =>
  lostBase + places.get(loss)! * 2 + (byReceiver ? 1 : 0);
export const isLost = (outcome: number): boolean => outcome >= lostBase;
export const lossOf = (outcome: number): Loss => losses[(outcome - lostBase) >> 1]!;
export const isByReceiver = (outcome: number): boolean => (outcome & 1) === 1;

/** The better of what became of an event in two files: there is rather than is not, the same rather than changed. */
export function better(one: number, other: number): number {
  if (one === notAsked || other === notAsked) return Math.max(one, other);
  return Math.min(one, other);
}
