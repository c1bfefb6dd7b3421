import type { Modifier } from '@dnd-kit/core';

/** Rows move up and down only. */
export const restrictToVerticalAxis: Modifier = ({ transform }) => ({ ...transform, x: 0 });

/** A row stays within the table's body. */
export const restrictToParentElement: Modifier = ({
  containerNodeRect,
  draggingNodeRect,
  transform,
}) => {
  if (!containerNodeRect || !draggingNodeRect) return transform;
  const least = containerNodeRect.top - draggingNodeRect.top;
  const most = containerNodeRect.bottom - draggingNodeRect.bottom;
  return { ...transform, y: Math.min(Math.max(transform.y, least), most) };
};
