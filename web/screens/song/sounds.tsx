import { Trash2, Upload } from 'lucide-react';
import { useRef, useState } from 'react';
import type { BankView } from '#contracts/banks.ts';
import type { SongView } from '#contracts/songs.ts';
import { lacks, useAddBank, useBanks, useRemoveBank } from '../../api/banks.ts';
import { Button } from '../../components/button.tsx';
import { fileSize } from '../../components/text.ts';
import { Check } from '../../fields/check.tsx';
import { Choice } from '../../fields/choice.tsx';
import { hearSong, useBankOf, useHearing } from '../../state/hearing.ts';

const along = '';

/** With which sounds a song is heard: those that come along, or a bank of one's own, for this song or for all. */
export function Sounds({ song }: { song: SongView }) {
  const { data } = useBanks();
  const { own, heard } = useBankOf(song.id);
  const [ofSong, setOfSong] = useState(own !== undefined);
  const banks = data?.banks ?? [];
  const bank = banks.find((b) => b.sha256 === heard);
  const choose = (sha256: string): void => {
    const chosen = sha256 === along ? undefined : sha256;
    if (ofSong) hearSong(song.id, { bank: chosen });
    else {
      hearSong(song.id, { bank: undefined });
      useHearing.setState({ bank: chosen });
    }
  };
  return (
    <section aria-label="Sounds" className="space-y-1.5 border-t border-line pt-2">
      <Choice
        label="Sounds"
        value={bank?.sha256 ?? along}
        set={choose}
        className="max-w-[210px]"
        options={[
          [along, data?.along === null ? 'none are installed' : 'those that come along'],
          ...banks.map((b) => [b.sha256, `${b.name}, ${fileSize(b.bytes)}`] as const),
        ]}
      />
      {bank && (
        <>
          <Check
            checked={ofSong}
            set={(to) => {
              setOfSong(to);
              hearSong(song.id, { bank: to ? bank.sha256 : undefined });
              useHearing.setState({ bank: to ? undefined : bank.sha256 });
            }}
          >
            For this song alone
          </Check>
          {lacks(bank) && <p className="text-[12px] text-faint">{lacks(bank)}</p>}
        </>
      )}
      <div className="flex gap-1.5">
        <AddBank taken={(b) => choose(b.sha256)} />
        {bank && <RemoveBank bank={bank} />}
      </div>
    </section>
  );
}

function AddBank({ taken }: { taken: (bank: BankView) => void }) {
  const [sent, setSent] = useState(0);
  const add = useAddBank(setSent);
  const field = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button
        className="!text-[12px]"
        disabled={add.isPending}
        onClick={() => field.current?.click()}
        title="A sound bank of your own, SF2 or SF3: checked, and kept until you remove it"
      >
        <Upload size={13} aria-hidden />{' '}
        {add.isPending ? `Taking it, ${Math.round(sent * 100)} %` : 'Add a bank'}
      </Button>
      <input
        ref={field}
        type="file"
        accept=".sf2,.sf3"
        hidden
        aria-label="Sound bank, SF2 or SF3"
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (file) add.mutate(file, { onSuccess: taken });
        }}
      />
    </>
  );
}

/** Asks once: a bank that is removed is gone. */
function RemoveBank({ bank }: { bank: BankView }) {
  const remove = useRemoveBank();
  const [asked, ask] = useState(false);
  return asked ? (
    <Button
      className="!text-[12px]"
      autoFocus
      disabled={remove.isPending}
      onClick={() => remove.mutate(bank)}
      onBlur={() => ask(false)}
    >
      Remove for good: {fileSize(bank.bytes)}
    </Button>
  ) : (
    <Button
      kind="quiet"
      className="!text-[12px]"
      onClick={() => ask(true)}
      title={`Remove ${bank.name}, ${fileSize(bank.bytes)}`}
    >
      <Trash2 size={13} aria-hidden /> Remove
    </Button>
  );
}
