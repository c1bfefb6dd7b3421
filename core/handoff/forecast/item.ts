import type { StepRequest } from '../../operations/run.ts';
import type { HandoffAsked } from '../settings.ts';
import type { Aspect, Loss } from './judge/outcome.ts';

/** What is told of: a kind of event, a way in which events change, or something of the files themselves. */
export type What =
  | Loss
  | Exclude<Aspect, 'value' | 'letters' | 'cut' | 'form'>
  | 'chosenTracks'
  | 'bars'
  | 'parked'
  | 'kept'
  | 'chunks'
  | 'fileNames'
  | 'merged'
  | 'start'
  | 'repeated'
  | 'more';

/** What makes it arrive, or arrive as it is. */
export type Remedy =
  | { readonly says: string; readonly setting: HandoffAsked }
  | { readonly says: string; readonly step: StepRequest };

/** Something that will not arrive at the receiver, or arrives changed. */
export interface ForecastItem {
  readonly what: What;
  readonly arrives: 'not' | 'changed';
  /** Set so, or the receiver is so. */
  readonly by: 'setting' | 'receiver';
  /** In a sentence: what, and how much. */
  readonly says: string;
  /** Of what is told of: events, tracks or files. */
  readonly count: number;
  /** Ids of the tracks it is in. */
  readonly tracks: readonly string[];
  /** From 1, up to and including. */
  readonly bars: readonly { readonly from: number; readonly to: number }[];
  /** Why it matters to a musician. */
  readonly why: string;
  readonly remedy: Remedy | null;
}
