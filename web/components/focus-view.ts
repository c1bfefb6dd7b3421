/** Where the work of the view that is open begins, once that is drawn. */
export const beginOfView = (main: HTMLElement | null): HTMLElement | null =>
  main?.querySelector<HTMLElement>('[data-begin]:not(:disabled)') ?? null;

/** Gives the focus to where the work of the view that is open begins, else to the view as a whole. */
export function focusView(): void {
  const main = document.querySelector<HTMLElement>('main');
  const begin = beginOfView(main);
  if (main && !begin) main.tabIndex = -1;
  (begin ?? main)?.focus({ preventScroll: true });
}
