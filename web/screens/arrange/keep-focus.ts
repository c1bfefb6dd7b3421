/** Whether the running order that comes next, of the song as a step leaves it, is to have the focus. */
let wanted = false;

export const wantFocus = (): void => void (wanted = true);

export function takeFocus(): boolean {
  const was = wanted;
  wanted = false;
  return was;
}
