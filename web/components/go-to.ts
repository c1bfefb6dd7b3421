import { useEffect } from 'react';
import { useNavigate } from 'react-router';

/** Goes to a place of the page from where no view is: the page itself goes there. */
export const goTo = (path: string): void =>
  void dispatchEvent(new CustomEvent('go-to', { detail: path }));

/** Goes where {@link goTo} says. */
export function useGoing(): void {
  const navigate = useNavigate();
  useEffect(() => {
    const go = (e: Event): void => void navigate((e as CustomEvent<string>).detail);
    addEventListener('go-to', go);
    return () => removeEventListener('go-to', go);
  }, [navigate]);
}
