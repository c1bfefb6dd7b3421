import { create } from 'zustand';

/** The step that is being prepared in the margin: nothing is done until it is taken. */
export interface Prepared {
  readonly operation: string;
  readonly settings: Readonly<Record<string, unknown>>;
  /** Tracks it works on; undefined for those selected, or all. */
  readonly tracks?: readonly string[];
  /** It was begun away from where it is shown, and has the focus there. */
  readonly takesFocus?: true;
  /** Bars of its own, or all of them; undefined for those of the scope. */
  readonly bars?: { readonly from: number; readonly to: number } | 'all' | undefined;
}

interface StepState {
  readonly prepared: Prepared | undefined;
  /** Operation of the step that was just left, taken or not: where it was begun the focus goes again. */
  readonly left: string | undefined;
  prepare(step: Prepared | undefined): void;
}

export const usePreparedStep = create<StepState>((set) => ({
  prepared: undefined,
  left: undefined,
  prepare: (prepared) =>
    set((had) => ({ prepared, left: prepared ? undefined : had.prepared?.operation })),
}));
