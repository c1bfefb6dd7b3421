import { format as formatDate } from 'date-fns';
import { Copy, Link2 } from 'lucide-react';
import { useState } from 'react';
import type { NewLink } from '#contracts/handoffs.ts';
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
  const address = made && `${location.origin}${made.path}`;
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
      {address && (
        <div className="mt-2 flex items-center gap-2" role="status">
          <input
            aria-label="Address of the link"
            readOnly
            className="num min-w-0 flex-1 rounded border border-line bg-paper px-1.5 py-0.5 text-[12.5px]"
            value={address}
            onFocus={(e) => e.target.select()}
          />
          <Button
            onClick={() =>
              void navigator.clipboard.writeText(address).then(
                () => say('The address is on the clipboard'),
                () =>
                  sayWrong('It was not copied', {
                    description: 'Select the address and copy it by hand.',
                  }),
              )
            }
          >
            <Copy size={13} aria-hidden /> Copy
          </Button>
        </div>
      )}
      {made && (
        <p className="mt-1 text-[12.5px] text-faint">
          It is shown only now.
          {made.local &&
            ' This server listens on this machine alone: the link opens here and nowhere else, until a host is named in SATCHEL_HOSTS.'}
        </p>
      )}
      <ul className="mt-2 space-y-1">
        {links.map((l) => {
          const over = l.revoked
            ? 'revoked'
            : new Date(l.expiresAt) < new Date()
              ? 'expired'
              : undefined;
          const until = formatDate(new Date(l.expiresAt), 'd MMM yyyy, HH:mm');
          return (
            <li key={l.id} className="flex items-baseline gap-3 text-[12.5px]">
              <span className={over ? 'text-faint line-through' : ''}>
                Made {formatDate(new Date(l.at), 'd MMM, HH:mm:ss')}, good until {until}
              </span>
              <span className="text-faint">{over ?? count(l.downloads, 'download')}</span>
              {!over && (
                <Button
                  kind="quiet"
                  className="!px-1 !py-0 !text-[12.5px]"
                  onClick={() => revoke.mutate(l.id)}
                >
                  Revoke
                </Button>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
