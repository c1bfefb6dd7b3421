import { create } from 'zustand';

/** The ticks that the view of a song has in sight, for the strip; undefined where it has no axis of its own. */
interface InView {
  readonly span: { readonly from: number; readonly to: number } | undefined;
}

export const useInView = create<InView>(() => ({ span: undefined }));
