import type { ClipView } from '#contracts/shelf.ts';
import { count } from '../../components/text.ts';
import { theDesk } from '../../desk/the-desk.ts';
import { useShelf, type ClipHere } from '../../state/shelf.ts';
import { say, sayBusy, sayWrong } from '../../messages/messages.ts';

/** More files than this are not read at once. */
const most = 20_000;
const isMidi = /\.(mid|midi|smf|kar|rmi)$/i;

/**
 * Reads a folder of the machine to be looked through and heard, and keeps nothing of it: as long as the
 * page is open.
 */
export async function lookThrough(files: readonly File[]): Promise<void> {
  const midi = files.filter((f) => isMidi.test(f.name)).slice(0, most);
  const name = files[0]?.webkitRelativePath.split('/')[0] || 'Files';
  const message = sayBusy(`Reading ${name} …`);
  const clips: ClipHere[] = [];
  let unread = 0;
  for (const [n, file] of midi.entries()) {
    try {
      clips.push(...(await clipsOf(file)));
    } catch {
      unread++;
    }
    if (n % 50 === 49)
      message.tell(`Reading ${name}: ${Math.round(((n + 1) / midi.length) * 100)} %`);
  }
  message.end();
  if (clips.length === 0) {
    sayWrong(`Nothing in ${name} could be read`, {
      description: 'Choose a folder with MIDI files in it.',
    });
    return;
  }
  useShelf.setState({ here: { name, clips } });
  goThrough();
  say(`Looking through ${name}: ${count(clips.length, 'clip')}`, {
    description: `Nothing of it is kept but what you put into a song.${unread > 0 ? ` ${count(unread, 'file')} could not be read.` : ''}`,
  });
}

/** Lists the folder that is looked through; the folders of the shelf are none of its own. */
export const goThrough = (): void =>
  useShelf.setState(({ asked }) => ({ looking: true, asked: { ...asked, folder: undefined } }));

/** Files that were ever read here: what is heard of one is never taken for another. */
let read = 0;

async function clipsOf(file: File): Promise<ClipHere[]> {
  const n = read++;
  const found = await theDesk().clipsOf(new Uint8Array(await file.arrayBuffer()), file.name);
  const folder = file.webkitRelativePath.split('/').slice(1, -1).join('/');
  return found.map(({ name, facts }, part): ClipHere => ({
    ...facts,
    id: `here ${n} ${part}`,
    sha256: `here ${n}`,
    part: part + 1,
    folder,
    name,
    tags: [],
    program: facts.program === null ? null : facts.program + 1,
    addedAt: '',
    file,
  }));
}

/** Whether a clip is of a folder that is only looked through. */
export const isHere = (clip: ClipView): clip is ClipHere => 'file' in clip;
