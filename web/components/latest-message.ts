import { toast, type ExternalToast } from 'sonner';

const shown = new Map<string, string | number>();

/**
 * A message that takes the place of the last one about the same thing. It is a message of its own: one under the
 * id of a message that is just leaving is lost, and one that changes another's text leaves when that would have.
 */
export function sayLatest(about: string, text: string, options?: Omit<ExternalToast, 'id'>): void {
  const last = shown.get(about);
  if (last !== undefined) toast.dismiss(last);
  shown.set(about, toast(text, options));
}
