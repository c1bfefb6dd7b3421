/** Whether keys go into a field. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    (/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) &&
      !/checkbox|radio|button/.test((target as HTMLInputElement).type)));
