import { urlOf } from '#contracts/addresses.ts';
import { problemFrom } from '../../api/client.ts';
import { showProblem } from '../../api/queries.ts';
import { Button } from '../../components/button.tsx';
import { useTakeFiles } from '../../components/drop-anywhere.tsx';

/** The file as a song of its own, beside the one that is open. */
export function AsSong({ sha256, called }: { sha256: string; called: string }) {
  const take = useTakeFiles();
  const press = async (): Promise<void> => {
    const response = await fetch(urlOf('getFile', { sha256 })).catch(() => undefined);
    if (!response) return showProblem(problemFrom(0, ''));
    if (response.ok) await take([new File([await response.blob()], called)]);
    else showProblem(problemFrom(response.status, await response.text()));
  };
  return <Button onClick={() => void press()}>As a song of its own</Button>;
}
