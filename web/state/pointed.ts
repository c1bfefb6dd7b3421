import { create } from 'zustand';

/**
 * The place in the song that is pointed at, as a part of its length, wherever that is: the strip tells it, and
 * whatever is drawn along the song has a line there. The line goes by a style, so that no row is drawn anew.
 */
export const usePointed = create<{ readonly at: number | undefined }>(() => ({ at: undefined }));

export function pointAt(at: number | undefined): void {
  const { style } = document.documentElement;
  if (at === undefined) style.removeProperty('--pointed');
  else style.setProperty('--pointed', `${at * 100}%`);
  usePointed.setState({ at });
}
