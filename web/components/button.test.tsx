// @vitest-environment jsdom
import { cleanup, render, screen } from '@testing-library/react';
import { Tooltip } from 'radix-ui';
import { afterEach, expect, it } from 'vitest';
import { Button } from './button.tsx';

afterEach(cleanup);

it('a button that is busy for a moment stays the same element, so that the focus finds it again', () => {
  const shown = (disabled: boolean) => (
    <Tooltip.Provider>
      <Button title="Takes the last step back" disabled={disabled}>
        Undo
      </Button>
    </Tooltip.Provider>
  );
  const { rerender } = render(shown(false));
  const button = screen.getByRole('button', { name: 'Undo' });
  rerender(shown(true));
  expect(screen.getByRole('button', { name: 'Undo' })).toBe(button);
  expect(button.getAttribute('title')).toBe('Takes the last step back');
  rerender(shown(false));
  expect(screen.getByRole('button', { name: 'Undo' })).toBe(button);
  expect(button.getAttribute('title')).toBeNull();
});
