import { ChevronRight } from 'lucide-react';
import { Accordion } from 'radix-ui';
import type { ReactNode } from 'react';

/** A part of what is set, which says in a line what it is set to, open or not. */
export const Part = ({
  name,
  says,
  changed,
  children,
}: {
  readonly name: string;
  readonly says: string;
  /** It is not as it is where nothing is said. */
  readonly changed: boolean;
  readonly children: ReactNode;
}) => (
  <Accordion.Item value={name} className="border-b border-line last:border-b-0">
    <Accordion.Header asChild>
      <h3>
        <Accordion.Trigger className="group flex w-full items-baseline gap-2 rounded py-1.5 pr-1 text-left hover:bg-sheet">
          <ChevronRight
            size={13}
            className="shrink-0 self-center text-faint transition-transform group-data-[state=open]:rotate-90"
            aria-hidden
          />
          <span className="w-[92px] shrink-0 font-medium">{name}</span>
          <span
            className={`min-w-0 flex-1 truncate text-[12.5px] ${changed ? 'text-ink' : 'text-faint'}`}
          >
            {says}
          </span>
          {changed && (
            <span
              className="size-[7px] shrink-0 self-center rounded-full bg-amber"
              role="img"
              aria-label="set by hand"
              title="Set by hand"
            />
          )}
        </Accordion.Trigger>
      </h3>
    </Accordion.Header>
    <Accordion.Content className="space-y-3 pt-1 pr-1 pb-4 pl-[21px]">{children}</Accordion.Content>
  </Accordion.Item>
);

/** A question beside its answer. */
export const Asked = ({ says, children }: { says: string; children: ReactNode }) => (
  <div className="grid grid-cols-[92px_minmax(0,1fr)] items-baseline gap-2">
    <span className="text-[12.5px] text-faint" aria-hidden>
      {says}
    </span>
    <div className="min-w-0">{children}</div>
  </div>
);
