import type { TrackLook } from '../looking/track-look.ts';
import type { Events } from '../smf/events.ts';
import { activityOf, contentOf, type TrackContent } from '../song/summary.ts';
import { factsOfEvents, type TrackFacts } from '../song/track-facts.ts';
import { encodeText } from '../smf/text.ts';
import type { Ports } from './ports.ts';

/**
 * What was worked out of a blob, kept beside it: true as long as all that it depends on besides the blob is
 * the same, which `depends` names, and the code that works it out, which whoever keeps it looks after. Of
 * each kind the newest is kept; nothing is lost where one is missing.
 */
export type Fact =
  | {
      readonly blob: string;
      readonly kind: 'track';
      readonly depends: '';
      readonly value: TrackFact;
    }
  | {
      readonly blob: string;
      readonly kind: 'activity';
      readonly depends: string;
      readonly value: readonly number[];
    }
  | {
      readonly blob: string;
      readonly kind: 'look';
      readonly depends: string;
      readonly value: TrackLook;
    };
export type FactKind = Fact['kind'];

export interface TrackFact {
  readonly facts: TrackFacts;
  readonly content: TrackContent;
}

export function trackFact(blob: string, events: Events): Fact & { kind: 'track' } {
  return {
    blob,
    kind: 'track',
    depends: '',
    value: { facts: factsOfEvents(events), content: contentOf(events) },
  };
}

/** The bar grid that activity is counted on. */
export interface Grid {
  readonly key: string;
  readonly starts: readonly number[];
}

export const gridOf = (starts: readonly number[], ports: Pick<Ports, 'sha256'>): Grid => ({
  key: digest(starts, ports),
  starts,
});

export function activityFact(
  blob: string,
  events: Events,
  { key, starts }: Grid,
): Fact & { kind: 'activity' } {
  return {
    blob,
    kind: 'activity',
    depends: key,
    value: activityOf(events, { starts: Float64Array.from(starts) }),
  };
}

/** A short name for a value: sixteen digits of the SHA-256 of its JSON. */
export const digest = (value: unknown, { sha256 }: Pick<Ports, 'sha256'>): string =>
  sha256(encodeText(JSON.stringify(value))).slice(0, 16);
