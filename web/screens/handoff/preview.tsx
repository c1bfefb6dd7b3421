import type { UseQueryResult } from '@tanstack/react-query';
import type { HandoffPreview } from '#contracts/handoffs.ts';
import type { ReactNode } from 'react';
import { problemOf } from '../../api/client.ts';
import { ProblemNote } from '../../components/problem-note.tsx';
import { FilesTable } from './files-table.tsx';
import { LeftOut } from './left-out-list.tsx';

/** Which files would leave as it is set now, and what would not. */
export function Preview({
  query,
  forecast,
}: {
  query: UseQueryResult<HandoffPreview>;
  /** What will not arrive, between the files and what the slip will say of them. */
  forecast: ReactNode;
}) {
  const { data, error, isFetching } = query;
  if (error) return <ProblemNote problem={problemOf(error)} />;
  if (!data) return <p className="text-faint">Working out what would leave …</p>;
  return (
    <div className={isFetching ? 'opacity-60' : ''}>
      <FilesTable files={data.files} label="Files that would be made" />
      {forecast}
      <LeftOut notes={data.notes} files={data.files} title="What the slip will say" />
    </div>
  );
}
