const loads: (() => Promise<unknown>)[] = [];

/** What the first view does not wait for, and is fetched once the page has nothing else to do. */
export const fetchLater = (load: () => Promise<unknown>): void => void loads.push(load);

/**
 * Fetches all of it, so that going to a screen is at once; what fails is fetched again when it is gone to.
 */
export const fetchScreens = (): void =>
  void setTimeout(() => loads.forEach((load) => void load().catch(() => undefined)), 1500);
