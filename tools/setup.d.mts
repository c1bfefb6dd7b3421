/** Types of setup.mjs, for the tests. */
export const root: string;
export function chromium(): string | undefined;
export function sounds(): string | undefined;
