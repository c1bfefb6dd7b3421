/**
 * Where the work goes on after a finding is settled or left alone: at the one that stands in its place. Its cards
 * go and come again with each step, and a step is prepared where they stood, so that the page has to remember.
 */
const cards = '[data-card]';
/** What is prepared for a finding, and what opens from that. */
const itsStep = '[data-step-panel], [data-radix-popper-content-wrapper], [role=dialog]';
/** Place of the card that was worked on last; undefined once the work is elsewhere. */
let place: number | undefined;

export const findingInHand = (): boolean => place !== undefined;

/** Follows the focus. No focus at all changes nothing. */
export function followFocus(event: FocusEvent): void {
  const target = event.target as HTMLElement;
  const card = target.closest(cards);
  if (card) place = [...document.querySelectorAll(cards)].indexOf(card);
  else if (!target.closest(itsStep)) place = undefined;
}

/** Gives a focus that was lost to the finding that stands there now, else to what `otherwise` finds. */
export function goOnWithFindings(otherwise: () => HTMLElement | null): void {
  if (place === undefined || document.activeElement !== document.body) return;
  const all = document.querySelectorAll(cards);
  const card = all[Math.min(place, all.length - 1)];
  (card?.querySelector<HTMLElement>('button:not(:disabled)') ?? otherwise())?.focus();
}
