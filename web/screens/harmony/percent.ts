/** How sure something is, in words. */
export const percent = (sure: number): string => `${Math.round(sure * 100)} %`;
