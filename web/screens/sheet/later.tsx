import { lazy } from 'react';
import { fetchLater } from '../../components/fetch-later.ts';

const load = async () => ({ default: (await import('../../step/step-panel.tsx')).StepPanel });

/** The form of a step comes with the screens that nobody waits for. */
export const StepPanel = lazy(load);
fetchLater(load);
