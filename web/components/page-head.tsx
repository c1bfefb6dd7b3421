import { Link } from 'react-router';
import { MessageLine } from '../messages/message-line.tsx';
import { PageTools } from './page-tools.tsx';

/** The head of a page that is about no song: the way back to the songs, what it is, commands and theme. */
export const PageHead = ({ title }: { title: string }) => (
  <header className="flex flex-wrap items-center gap-x-3 border-b border-line px-3 py-1.5 md:flex-nowrap">
    <Link to="/" className="flex items-center gap-2" title="All songs" aria-label="All songs">
      <img src="/mark.svg" alt="" width={26} height={26} />
    </Link>
    <h1 className="text-[17px] font-semibold">{title}</h1>
    <MessageLine />
    <div className="ml-auto">
      <PageTools />
    </div>
  </header>
);
