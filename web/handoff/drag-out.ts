import type { DragEvent } from 'react';
import { urlOf } from '#contracts/addresses.ts';
import { namesBy } from '#core/handoff/names.ts';
import type { HandoffAsked } from '#core/handoff/settings.ts';

/** A file that is made where it is dropped: what it is called, and the address that makes it. */
export interface Outgoing {
  readonly name: string;
  readonly address: string;
  readonly type: 'audio/midi' | 'application/zip';
}

/** What leaves of a song under a name. Several files leave as one archive. */
export function outgoing(
  song: string,
  called: string,
  settings: HandoffAsked,
  several = false,
): Outgoing {
  const name = safeName(called, several ? '.zip' : '.mid');
  return {
    name,
    address: urlOf('getOut', { id: song, name }, { settings: JSON.stringify(settings) }),
    type: several ? 'application/zip' : 'audio/midi',
  };
}

const nothing = { track: '', nn: '', instrument: '', bpm: '', key: '', section: '', version: '' };

const safeName = (called: string, ending: string): string =>
  namesBy('{song}', [{ ...nothing, song: called }], ending).names[0]!;

/** Lets a drag carry a file: its address, whatever takes it fetches it from there. */
export function carry({ dataTransfer }: DragEvent, { name, address, type }: Outgoing): void {
  const url = new URL(address, location.href).href;
  dataTransfer.effectAllowed = 'copy';
  // What a browser saves or hands to a program as a file: media type, name and address (common practice).
  dataTransfer.setData('DownloadURL', `${type}:${name}:${url}`);
  dataTransfer.setData('text/uri-list', url);
  dataTransfer.setData('text/plain', url);
}
