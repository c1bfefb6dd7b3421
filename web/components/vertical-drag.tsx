import {
  DndContext,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable';
import type { ReactNode } from 'react';
import { restrictToParentElement, restrictToVerticalAxis } from './drag-limits.ts';

/** A list whose rows are dragged up and down by a grip; what keys do instead is said to who cannot see it. */
export function VerticalDrag({
  ids,
  keys,
  dropped,
  children,
}: {
  ids: readonly string[];
  /** How a row in focus is moved by keys, in a sentence. */
  keys: string;
  /** A row was let go of on another's place. */
  dropped: (id: string, onto: string) => void;
  children: ReactNode;
}) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const onDragEnd = ({ active, over }: DragEndEvent): void => {
    if (over && active.id !== over.id) dropped(String(active.id), String(over.id));
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      modifiers={[restrictToVerticalAxis, restrictToParentElement]}
      onDragEnd={onDragEnd}
      accessibility={{ screenReaderInstructions: { draggable: keys } }}
    >
      <SortableContext items={[...ids]} strategy={verticalListSortingStrategy}>
        {children}
      </SortableContext>
    </DndContext>
  );
}
