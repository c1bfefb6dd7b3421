import type { Limits } from '../receiver/receiver.ts';

/** Whether a file is found under its name. */
export function fitsAsName(name: string, { fileNames, ending }: Limits): boolean {
  const dot = name.lastIndexOf('.');
  const [stem, behind] = [name.slice(0, dot), name.slice(dot)];
  if (behind.toLowerCase() !== ending.toLowerCase()) return false;
  if (fileNames === '8.3') return /^[A-Z0-9_]{1,8}$/.test(stem) && behind.length <= 4;
  return fileNames === 'long' || /^[ -~]{1,16}$/.test(stem);
}
