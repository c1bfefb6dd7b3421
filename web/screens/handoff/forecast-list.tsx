import type { UseQueryResult } from '@tanstack/react-query';
import { useEffect } from 'react';
import type { SongView } from '#contracts/songs.ts';
import type { ForecastItem } from '#core/handoff/forecast/item.ts';
import { problemOf } from '../../api/client.ts';
import { Button } from '../../components/button.tsx';
import { ProblemNote } from '../../components/problem-note.tsx';
import { count } from '../../components/text.ts';
import { useShownBars } from '../../state/shown-bars.ts';

/** Names and spans that are said; more say how many. */
const mostNamed = 3;

/** What will not arrive, or arrives changed: how much, where, why it matters, and what helps. */
export function ForecastList({
  song,
  query,
  receiver,
  remedy,
}: {
  readonly song: SongView;
  readonly query: UseQueryResult<readonly ForecastItem[]>;
  /** What who it is for is called. */
  readonly receiver: string | undefined;
  readonly remedy: (remedy: NonNullable<ForecastItem['remedy']>) => void;
}) {
  const { data, error, isPlaceholderData } = query;
  const show = useShownBars((s) => s.show);
  useEffect(() => () => show([]), [show]);
  if (error) return <ProblemNote problem={problemOf(error)} />;
  if (!data) return <p className="mt-4 text-faint">Following every event …</p>;
  // What somebody left out is no alarm: it stands apart, and can be sent by one press all the same.
  const left = data.filter(isLeftOut);
  const items = data.filter((item) => !isLeftOut(item));
  const heading =
    items.length > 0
      ? `${count(items.length, 'thing')} will not arrive as here`
      : `Everything${left.length > 0 ? ' that is sent' : ''} arrives${receiver ? ` at ${receiver}` : ''}`;
  return (
    <section aria-label="Forecast" className={`mt-5 ${isPlaceholderData ? 'opacity-60' : ''}`}>
      <div role="status">
        <h3 className="seam mb-1.5 pb-0.5 font-semibold">{heading}</h3>
      </div>
      {data.length === 0 && (
        <p className="text-moss">
          Every note, controller, name and mark is there as it is here
          {receiver ? '' : ', for who takes everything'}.
        </p>
      )}
      <Items {...{ song, remedy, show }} items={items} />
      {left.length > 0 && (
        <>
          <h4 className="mt-4 mb-1.5 text-faint">Left out by your settings</h4>
          <Items {...{ song, remedy, show }} items={left} />
        </>
      )}
    </section>
  );
}

/** What would arrive if it were sent. */
const isLeftOut = ({ by, arrives }: ForecastItem): boolean => by === 'setting' && arrives === 'not';

interface Acts {
  readonly song: SongView;
  readonly remedy: (remedy: NonNullable<ForecastItem['remedy']>) => void;
  readonly show: (bars: ForecastItem['bars']) => void;
}

const Items = ({ items, ...acts }: Acts & { readonly items: readonly ForecastItem[] }) => (
  <ul className="space-y-2.5">
    {items.map((item) => (
      <Item key={`${item.what} ${item.arrives} ${item.by}`} item={item} {...acts} />
    ))}
  </ul>
);

const tone = { not: 'border-rust', changed: 'border-ochre' } as const;

function Item({ song, item, remedy: take, show }: Acts & { readonly item: ForecastItem }) {
  const { says, why, arrives, by, remedy, bars } = item;
  return (
    <li
      className={`border-l-3 pl-3 ${isLeftOut(item) ? 'border-line' : tone[arrives]}`}
      onPointerEnter={() => show(bars)}
      onPointerLeave={() => show([])}
      onFocus={() => show(bars)}
      onBlur={() => show([])}
    >
      <p>
        <span className="font-medium">{says}</span>
        <span className="text-faint"> {where(song, item)}</span>
      </p>
      <div className="flex items-baseline gap-3">
        <p className="min-w-0 flex-1 text-[12.5px] text-faint">{why}</p>
        {remedy ? (
          <Button className="!px-1.5 !py-0.5 !text-[12.5px]" onClick={() => take(remedy)}>
            {remedy.says}
          </Button>
        ) : (
          <span className="shrink-0 text-[12px] text-faint">
            {by === 'receiver' ? 'It takes none otherwise' : 'As it is set'}
          </span>
        )}
      </div>
    </li>
  );
}

/** Where it is, in few words. */
function where(song: SongView, { tracks, bars }: ForecastItem): string {
  // What stands in the track of the map is the song's.
  const own = song.mapTrack ? song.tracks[0]!.id : undefined;
  const parts = tracks.filter((id) => id !== own);
  const names = parts.map((id) => {
    const n = song.tracks.findIndex((t) => t.id === id);
    return song.tracks[n]?.name || `track ${n + 1}`;
  });
  const all = names.length > 1 && names.length === song.tracks.length - (own ? 1 : 0);
  const who =
    names.length === 0 || all
      ? all
        ? 'in all tracks'
        : ''
      : `in ${names.slice(0, mostNamed).join(', ')}${names.length > mostNamed ? ` and ${names.length - mostNamed} more` : ''}`;
  const spans = bars.map(({ from, to }) => (from === to ? `${from}` : `${from}–${to}`));
  const at =
    spans.length === 0
      ? ''
      : `bar${spans.length > 1 || bars[0]!.from !== bars[0]!.to ? 's' : ''} ${spans.slice(0, mostNamed).join(', ')}${spans.length > mostNamed ? ' …' : ''}`;
  return [who, at].filter(Boolean).join(', ');
}
