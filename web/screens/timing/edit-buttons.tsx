import { Button } from '../../components/button.tsx';

/** What ends an edit in a row, and why it cannot be kept yet. */
export function EditButtons({
  wrong,
  busy,
  done,
}: {
  wrong: string | undefined;
  busy: boolean;
  done: () => void;
}) {
  return (
    <>
      <Button type="submit" kind="next" disabled={wrong !== undefined || busy}>
        Keep
      </Button>
      <Button type="button" onClick={done}>
        Not now
      </Button>
      {wrong && <span className="text-[12px] text-rust">{wrong}</span>}
    </>
  );
}
