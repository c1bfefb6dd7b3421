import { cutText } from '#core/smf/text.ts';
import { trimEnds } from '#core/units/trim-ends.ts';

/** A file name from a title: what file systems refuse is left out; the ending is the received file's. */
export function fileName(title: string, received: string): string {
  const ending = /\.(mid|midi|smf|kar|rmi)$/i.exec(received)?.[0] ?? '.mid';
  const plain = title.replace(/[\\/:*?"<>|\p{Cc}]/gu, ' ').replace(/\s+/g, ' ');
  const stem = trimEnds(plain.trim(), '.');
  return `${cutText(stem, 120) || 'Untitled'}${ending}`;
}
