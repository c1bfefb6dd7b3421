import { useState, type ReactNode } from 'react';
import type { InstrumentView } from '#contracts/instruments.ts';
import { urlOf } from '#contracts/addresses.ts';
import { deviceOf, lostInMidnam } from '#core/instruments/midnam/write.ts';
import { buttonLook } from '../../components/button.tsx';
import { Check } from '../../fields/check.tsx';

/** An address holds the names of so many. */
const mostNamed = 300;
/** More are not drawn. */
const mostShown = 600;

/** Instruments to be written to a file, and what a MIDI name document cannot hold of them, said before. */
export function WriteFile({ list }: { list: readonly InstrumentView[] }) {
  const own = list.filter((i) => !i.along);
  const [ids, setIds] = useState<ReadonlySet<string>>(() => new Set(own.map((i) => i.id)));
  const chosen = list.filter((i) => ids.has(i.id));
  const devices = [...new Set(chosen.map((i) => deviceOf(i.definition)))];
  const lost = lostInMidnam(chosen.map((i) => i.definition));
  const toggle = (id: string, on: boolean): void =>
    setIds(new Set(on ? [...ids, id] : [...ids].filter((other) => other !== id)));
  // All of one's own need no names; of some there are as many as an address holds.
  const allOwn = chosen.length === own.length && own.every((i) => ids.has(i.id));
  const link = (format: 'json' | 'midnam'): string =>
    urlOf('writeInstruments', {}, { ids: allOwn ? undefined : [...ids].join(','), format });
  const fault =
    chosen.length === 0
      ? 'Tick at least one.'
      : !allOwn && chosen.length > mostNamed
        ? `Tick at most ${mostNamed}, or all of your own.`
        : undefined;
  return (
    <section aria-label="Write a file" className="mx-auto max-w-[860px]">
      <h2 className="text-[19px] font-semibold">Write a file</h2>
      <div className="mt-3 grid grid-cols-2 gap-6">
        <AsJson>
          <Save href={link('json')} fault={fault}>
            Save {chosen.length} as JSON
          </Save>
        </AsJson>
        <div>
          <h3 className="font-semibold">As a MIDI name document</h3>
          <AsMidnam devices={devices} lost={lost}>
            <Save href={link('midnam')} fault={fault}>
              Save {chosen.length} as MIDNAM
            </Save>
          </AsMidnam>
        </div>
      </div>
      <fieldset className="mt-5">
        <legend className="seam mb-2 w-full pb-1 text-[12px] text-faint">Which</legend>
        <div className="columns-3 gap-6 text-[13px]">
          {list.slice(0, mostShown).map(({ id, definition }) => (
            <Check key={id} checked={ids.has(id)} set={(on) => toggle(id, on)}>
              {definition.name}
            </Check>
          ))}
        </div>
      </fieldset>
    </section>
  );
}

const AsJson = ({ children }: { children: ReactNode }) => (
  <div>
    <h3 className="font-semibold">As JSON</h3>
    <p className="mt-1 text-[13px] text-faint">All there is of them, for another installation.</p>
    {children}
  </div>
);

const Save = ({
  href,
  fault,
  children,
}: {
  href: string;
  fault: string | undefined;
  children: React.ReactNode;
}) =>
  fault ? (
    <p className="mt-2 text-[13px] text-faint">{fault}</p>
  ) : (
    <a className={`${buttonLook('next')} mt-2`} href={href} download>
      {children}
    </a>
  );

/** What such a document cannot hold, or why there is none. */
const AsMidnam = ({
  devices,
  lost,
  children,
}: {
  devices: readonly string[];
  lost: readonly string[];
  children: ReactNode;
}) =>
  devices.length > 1 ? (
    <p className="mt-1 text-[13px]">
      One document is about one device, and these are of {devices.length}:{' '}
      {devices.slice(0, 4).join(', ')}
      {devices.length > 4 && ' …'}. Tick those of one.
    </p>
  ) : (
    <>
      <p className="mt-1 text-[13px] text-faint">
        {lost.length === 0 ? 'It holds all there is of them.' : 'It cannot hold:'}
      </p>
      <ul className="text-[13px]">
        {lost.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      {children}
    </>
  );
