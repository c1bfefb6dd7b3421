import { create } from 'zustand';

const place = 'recent-sounds';
const most = 6;

function kept(): readonly string[] {
  try {
    const said: unknown = JSON.parse(localStorage.getItem(place) ?? '[]');
    return Array.isArray(said) ? said.filter((s) => typeof s === 'string').slice(0, most) : [];
  } catch {
    return [];
  }
}

/** Instruments that were given lately, the last first, by the keys of their candidates. */
export const useRecentSounds = create<{ recent: readonly string[] }>(() => ({ recent: kept() }));

export function rememberSound(key: string): void {
  const recent = [key, ...useRecentSounds.getState().recent.filter((k) => k !== key)].slice(
    0,
    most,
  );
  useRecentSounds.setState({ recent });
  try {
    localStorage.setItem(place, JSON.stringify(recent));
  } catch {
    // A browser that keeps nothing has them in this window only.
  }
}
