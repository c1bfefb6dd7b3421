import { keyNow } from '../keys/shown.ts';
import { Moon, Search, Sun } from 'lucide-react';
import { usePreferences } from '../state/preferences.ts';
import { Button } from './button.tsx';

/** What stands at the right of every page's head: commands and theme. */
export function PageTools() {
  const { theme, setTheme } = usePreferences();
  return (
    <div className="flex items-center gap-1">
      <Button
        kind="quiet"
        onClick={() => dispatchEvent(new Event('open-commands'))}
        title={`Commands (${keyNow('find')}); all keys (${keyNow('keys')})`}
        aria-label="Commands"
      >
        <Search size={15} aria-hidden /> <kbd className="num text-faint">Ctrl K</kbd>
      </Button>
      <Button
        kind="quiet"
        onClick={() => setTheme(theme === 'day' ? 'night' : 'day')}
        title={theme === 'day' ? 'Night theme' : 'Day theme'}
        aria-label={theme === 'day' ? 'Night theme' : 'Day theme'}
      >
        {theme === 'day' ? <Moon size={15} aria-hidden /> : <Sun size={15} aria-hidden />}
      </Button>
    </div>
  );
}
