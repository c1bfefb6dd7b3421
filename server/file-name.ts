import { cutText } from '#core/smf/text.ts';

/** A file name from a title: what file systems refuse is left out; the ending is the received file's. */
export function fileName(title: string, received: string): string {
  const ending = /\.(mid|midi|smf|kar|rmi)$/i.exec(received)?.[0] ?? '.mid';
  const stem = title
    .replace(/[\\/:*?"<>|\p{Cc}]/gu, ' ')
    .replace(/\s+/g, ' ')
    .trim()
    .replace(/^\.+|\.+$/g, '');
  return `${cutText(stem, 120) || 'Untitled'}${ending}`;
}
