import { useEffect } from 'react';
import { useLocation } from 'react-router';
import { beginOfView, focusView } from '../../components/focus-view.ts';

const everyMs = 50;
/** A view that is not there by then is waited for no longer. */
const mostMs = 3000;
/** Where the page was opened or loaded again, until somebody goes elsewhere. */
let openedAt: string | undefined = location.pathname;
const leaveOpened = (): void => void (openedAt = undefined);

/**
 * A view that is gone to by a key has the focus, where its work begins (`data-begin`) or as a whole: nobody
 * is left on the body of the page, nor whoever dropped a file or chose one. Whoever pressed a link keeps the
 * focus there.
 */
export function useViewFocus(): void {
  const { pathname } = useLocation();
  useEffect(() => {
    // The page that opens has no focus, as any page.
    if (openedAt === pathname) return leaveOpened;
    leaveOpened();
    let left = mostMs / everyMs;
    const timer = setInterval(() => {
      const main = document.querySelector<HTMLElement>('main');
      const at = document.activeElement;
      const lost = at === null || at === document.body;
      // What a view begins with may come later than the view, and the view later than the one before goes.
      if (lost || (at === main && beginOfView(main))) focusView();
      else if (at !== main) clearInterval(timer);
      if (--left <= 0) clearInterval(timer);
    }, everyMs);
    return () => clearInterval(timer);
  }, [pathname]);
}
