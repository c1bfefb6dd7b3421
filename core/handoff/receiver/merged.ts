import type { HandoffAsked } from '../settings.ts';

/** Settings over others: what is said in groups of settings is said one by one. */
export function mergedSettings(under: HandoffAsked, over: HandoffAsked): HandoffAsked {
  const { form, take, edges } = over;
  return {
    ...under,
    ...over,
    ...(under.form || form ? { form: { ...under.form, ...form } } : {}),
    ...(under.take || take ? { take: { ...under.take, ...take } } : {}),
    ...(under.edges || edges ? { edges: { ...under.edges, ...edges } } : {}),
  };
}
