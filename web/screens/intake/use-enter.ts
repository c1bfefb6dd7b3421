import { useEffect, useEffectEvent } from 'react';
import { isTyping } from '../../components/is-typing.ts';

/** Enter takes what is proposed, wherever the focus is that has no use of its own for it. */
export function useEnter(take: () => void): void {
  const onKey = useEffectEvent((e: KeyboardEvent): void => {
    const used =
      e.target instanceof Element &&
      e.target.closest('button, a, [role="checkbox"], [role="combobox"], [role="dialog"]');
    if (
      e.key !== 'Enter' ||
      e.defaultPrevented ||
      (isTyping(e.target) && !(e.target instanceof HTMLInputElement)) ||
      used
    )
      return;
    e.preventDefault();
    take();
  });
  useEffect(() => {
    const listener = (e: KeyboardEvent): void => onKey(e);
    addEventListener('keydown', listener);
    return () => removeEventListener('keydown', listener);
  }, []);
}
