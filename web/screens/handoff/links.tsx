import { format as formatDate } from 'date-fns';
import { Copy, Link2 } from 'lucide-react';
import { useState } from 'react';
import type { LinkView, NewLink } from '#contracts/handoffs.ts';
import { useAddLink, useLinks, useRevokeLink } from '../../api/handoffs.ts';
import { Button } from '../../components/button.tsx';
import { count } from '../../components/text.ts';
import { Choice } from '../../fields/choice.tsx';
import { say, sayWrong } from '../../messages/messages.ts';

const terms = [
  [1, 'a day'],
  [7, 'a week'],
  [30, '30 days'],
  [365, 'a year'],
] as const;

/** Links to this handoff for somebody without the song: made, counted, revoked. */
export function Links({ handoff }: { handoff: string }) {
  const { data: links = [] } = useLinks(handoff);
  const add = useAddLink(handoff);
  const revoke = useRevokeLink(handoff);
  const [days, setDays] = useState<number>(7);
  const [made, setMade] = useState<NewLink>();
  return (
    <section aria-label="Links" className="mt-4">
      <h4 className="seam mb-1.5 pb-0.5 font-semibold">Links</h4>
      <div className="flex flex-wrap items-center gap-2">
        <Button disabled={add.isPending} onClick={() => add.mutate(days, { onSuccess: setMade })}>
          <Link2 size={14} aria-hidden /> Make a link
        </Button>
        <Choice label="good for" value={days} options={terms} set={setDays} />
        <span className="text-[12.5px] text-faint">
          Whoever has it gets these files, and nothing else.
        </span>
      </div>
      {made && <NewLinkLine made={made} />}
      <ul className="mt-2 space-y-1">
        {links.map((link) => (
          <LinkLine key={link.id} link={link} revoke={() => revoke.mutate(link.id)} />
        ))}
      </ul>
    </section>
  );
}

/** The address of a link that was made just now: it is shown this once. */
function NewLinkLine({ made }: { made: NewLink }) {
  const address = `${location.origin}${made.path}`;
  const copy = (): Promise<unknown> =>
    navigator.clipboard.writeText(address).then(
      () => say('The address is on the clipboard'),
      () =>
        sayWrong('It was not copied', { description: 'Select the address and copy it by hand.' }),
    );
  return (
    <>
      <div className="mt-2 flex items-center gap-2" role="status">
        <input
          aria-label="Address of the link"
          readOnly
          className="num min-w-0 flex-1 rounded border border-line bg-paper px-1.5 py-0.5 text-[12.5px]"
          value={address}
          onFocus={(e) => e.target.select()}
        />
        <Button onClick={() => void copy()}>
          <Copy size={13} aria-hidden /> Copy
        </Button>
      </div>
      <p className="mt-1 text-[12.5px] text-faint">
        It is shown only now.
        {made.local &&
          ' This server listens on this machine alone: the link opens here and nowhere else, until a host is named in SATCHEL_HOSTS.'}
      </p>
    </>
  );
}

/** Until when a link is good, how often it was used, and its end. */
function LinkLine({ link, revoke }: { link: LinkView; revoke: () => void }) {
  const expired = new Date(link.expiresAt) < new Date() ? 'expired' : undefined;
  const over = link.revoked ? 'revoked' : expired;
  const until = formatDate(new Date(link.expiresAt), 'd MMM yyyy, HH:mm');
  return (
    <li className="flex items-baseline gap-3 text-[12.5px]">
      <span className={over ? 'text-faint line-through' : ''}>
        Made {formatDate(new Date(link.at), 'd MMM, HH:mm:ss')}, good until {until}
      </span>
      <span className="text-faint">{over ?? count(link.downloads, 'download')}</span>
      {!over && (
        <Button kind="quiet" className="!px-1 !py-0 !text-[12.5px]" onClick={revoke}>
          Revoke
        </Button>
      )}
    </li>
  );
}
