import { Download, FileText, FolderDown, Package, Printer } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { HandoffView } from '#contracts/handoffs.ts';
import { urlOf } from '#contracts/addresses.ts';
import { trimEnd } from '#core/units/trim-ends.ts';
import { Button, buttonLook } from '../../components/button.tsx';
import { count } from '../../components/text.ts';
import { input } from '../../fields/field.ts';
import { chooseFolder, hasFolders, keptFolder, keptName, saveInto } from '../../handoff/folder.ts';
import { say, sayWrong } from '../../messages/messages.ts';

const fileAddress = (handoff: HandoffView, name: string): string =>
  urlOf('getHandoffFile', { id: handoff.id, name });

/**
 * How files that were made get to where they are to go. @param fresh they were made just now: the first way
 * has the focus
 */
export function WaysOut({ handoff, fresh }: { handoff: HandoffView; fresh: boolean }) {
  const first = useRef<HTMLAnchorElement>(null);
  const { files } = handoff;
  const one = files.length === 1 ? files[0]! : undefined;
  useEffect(() => {
    if (fresh) first.current?.focus();
  }, [fresh, handoff.id]);
  const packed = (handoff.receiver?.packed ?? 'files') !== 'files';
  const download = (
    <a
      ref={packed ? undefined : first}
      className={buttonLook(packed ? 'plain' : 'next')}
      href={one ? fileAddress(handoff, one.name) : urlOf('getHandoffFiles', { id: handoff.id })}
      download={one?.name ?? true}
    >
      <Download size={14} aria-hidden />{' '}
      {one ? 'Download' : `Download all ${files.length} as a zip`}
    </a>
  );
  const satchel = (
    <a
      ref={packed ? first : undefined}
      className={buttonLook(packed ? 'next' : 'plain')}
      href={urlOf('getSatchel', { id: handoff.id })}
      download
    >
      <Package size={14} aria-hidden />{' '}
      {handoff.receiver?.packed === 'satchel with the song' ? 'Satchel with the song' : 'Satchel'}
    </a>
  );
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      {packed && satchel}
      {download}
      {hasFolders() && <IntoFolder key={handoff.id} handoff={handoff} />}
      {!packed && satchel}
      <a className={buttonLook()} href={urlOf('getSlip', { id: handoff.id })} download>
        <FileText size={14} aria-hidden /> Slip as text
      </a>
      <a
        className={buttonLook()}
        href={urlOf('getSlipPage', { id: handoff.id })}
        target="_blank"
        rel="noreferrer"
      >
        <Printer size={14} aria-hidden /> Slip to print
      </a>
    </div>
  );
}

/** Saves the files into a folder that is chosen once; a single file under the name that is typed. */
function IntoFolder({ handoff }: { handoff: HandoffView }) {
  const { files } = handoff;
  const one = files.length === 1 ? files[0]! : undefined;
  const [name, setName] = useState(one?.name ?? '');
  const [folder, setFolder] = useState<string>();
  const [busy, setBusy] = useState(false);
  useEffect(() => {
    void keptName().then(setFolder);
  }, []);
  const save = async (anew: boolean): Promise<void> => {
    setBusy(true);
    try {
      const into = (anew ? undefined : await keptFolder()) ?? (await chooseFolder());
      if (!into) return;
      setFolder(into.name);
      const toSave = files.map((f) => ({
        name: one ? withEnding(name, f.name) : f.name,
        address: fileAddress(handoff, f.name),
      }));
      told(into.name, toSave, await saveInto(into, toSave));
    } catch (error) {
      sayWrong('Not everything was saved', {
        description: `${(error as Error).message}. See whether the folder is there and has room; the files are kept here.`,
      });
    } finally {
      setBusy(false);
    }
  };
  return (
    <span className="flex items-center gap-1.5">
      {one && (
        <input
          aria-label="Name to save it under"
          className={`${input} w-[200px]`}
          maxLength={120}
          value={name}
          onChange={(e) => setName(e.target.value.replace(/[\\/:*?"<>|]/g, ''))}
          onKeyDown={(e) => e.key === 'Enter' && void save(false)}
        />
      )}
      <Button disabled={busy || (one && name.trim() === '')} onClick={() => void save(false)}>
        <FolderDown size={14} aria-hidden />{' '}
        {busy
          ? 'Saving …'
          : folder
            ? `Save into ${folder || 'the folder'}`
            : 'Save into a folder …'}
      </Button>
      {folder !== undefined && (
        <Button kind="quiet" disabled={busy} onClick={() => void save(true)}>
          Another folder …
        </Button>
      )}
    </span>
  );
}

/** The name as it was typed, with the ending that the file has. */
function withEnding(typed: string, name: string): string {
  const ending = name.slice(name.lastIndexOf('.'));
  const stem = trimEnd(typed.trim(), '. ');
  return stem.toLowerCase().endsWith(ending.toLowerCase()) ? stem : `${stem}${ending}`;
}

function told(folder: string, wanted: readonly { name: string }[], names: readonly string[]): void {
  const moved = names.filter((n, i) => n !== wanted[i]!.name);
  say(`Saved ${count(names.length, 'file')} into ${folder || 'the folder'}`, {
    description:
      moved.length === 0
        ? names.slice(0, 3).join(', ')
        : `What was there stays: ${moved.slice(0, 3).join(', ')}${moved.length > 3 ? ' …' : ''} stands beside it.`,
  });
}
