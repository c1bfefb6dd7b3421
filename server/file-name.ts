/** A file name from a title: what file systems refuse is left out; the ending is the received file's. */
export function fileName(title: string, received: string): string {
  const ending = /\.(mid|midi|smf|kar|rmi)$/i.exec(received)?.[0] ?? '.mid';
  const stem = title.replace(/[\\/:*?"<>|\p{Cc}]/gu, ' ').replace(/\s+/g, ' ').trim().replace(/^\.+|\.+$/g, '').slice(0, 120);
  return `${stem || 'Untitled'}${ending}`;
}
