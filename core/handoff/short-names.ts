import anyAscii from 'any-ascii';
import { longNames, type NameStyle } from './names.ts';
import type { FileNameStyle } from './settings.ts';

const ascii = (text: string): string => anyAscii(text).replace(/[^ -~]/g, '');

/** Names by their style: of eight letters only what the oldest devices take. */
export const nameStyles: Readonly<Record<FileNameStyle, NameStyle>> = {
  long: longNames,
  '16': { ...longNames, most: 16, said: ascii },
  '8.3': {
    most: 8,
    said: (text) =>
      ascii(text)
        .toUpperCase()
        .replace(/[^A-Z0-9_]/g, ''),
    behind: String,
    ending: (ending) => ending.toUpperCase(),
  },
};
