import type { CDPSession, Page } from '@playwright/test';
import { frames } from '../browser/settled.ts';

/**
 * What a screen reader would say: of what has the focus its name, role, states and description, as the
 * browser's accessibility tree has them (W3C ARIA 1.2, Core-AAM 1.2), and every change of a live region as it
 * comes.
 */
export interface Spoken {
  /** All that was said, in order: keys as `Tab:`, what has the focus then, and live regions as `*`. */
  readonly lines: string[];
  /** Presses a key and hears what has the focus then, and what is told meanwhile. */
  press(key: string): Promise<void>;
  /** Presses a key that begins something: where the focus goes is heard when it is there. */
  begin(key: string): Promise<void>;
  /** Hears what has the focus, once that is so. */
  hear(says: RegExp): Promise<void>;
  /** Hears what is told until something says so. */
  until(says: RegExp): Promise<void>;
}

interface Heard {
  heard: string[];
}

/** In the page: live regions, each as it reads after it changed. */
function listen(): void {
  const kept = globalThis as unknown as Heard;
  kept.heard = [];
  const live = '[aria-live=polite], [aria-live=assertive], [role=status], [role=alert]';
  const last = new WeakMap<Element, string>();
  const hear = (node: Node): void => {
    const element = node instanceof Element ? node : node.parentElement;
    const region = element?.closest(live);
    if (!region || region.closest('[aria-hidden=true], [inert]')) return;
    const says = (region.textContent ?? '').replace(/\s+/g, ' ').trim();
    if (says === '' || last.get(region) === says) return;
    last.set(region, says);
    kept.heard.push(says);
  };
  new MutationObserver((changes) => {
    for (const { target, addedNodes } of changes) {
      hear(target);
      for (const node of addedNodes) if (node instanceof Element && node.matches(live)) hear(node);
    }
  }).observe(document, { subtree: true, childList: true, characterData: true });
}

interface AXValue {
  readonly value?: unknown;
}
interface AXNode {
  readonly role?: AXValue;
  readonly name?: AXValue;
  readonly description?: AXValue;
  readonly value?: AXValue;
  readonly properties?: readonly { readonly name: string; readonly value: AXValue }[];
}

const states = new Set(['checked', 'expanded', 'pressed', 'selected', 'disabled', 'invalid']);

function words({ role, name, description, value, properties = [] }: AXNode): string {
  const said = properties
    .filter((p) => states.has(p.name) && String(p.value.value) !== 'false')
    .map((p) =>
      p.value.value === true || p.value.value === 'true'
        ? p.name
        : `${p.name} ${String(p.value.value)}`,
    );
  return [
    `“${String(name?.value ?? '')}”`,
    String(role?.value ?? ''),
    value?.value === undefined ? '' : String(value.value),
    ...said,
    description?.value ? `(${String(description.value)})` : '',
  ]
    .filter((part) => part !== '')
    .join(', ');
}

async function focused(cdp: CDPSession): Promise<string> {
  const { result } = await cdp.send('Runtime.evaluate', { expression: 'document.activeElement' });
  const { nodes } = await cdp.send('Accessibility.getPartialAXTree', {
    objectId: result.objectId!,
    fetchRelatives: false,
  });
  return words(nodes[0] as AXNode);
}

export async function spoken(page: Page): Promise<Spoken> {
  await page.addInitScript(listen);
  const cdp = await page.context().newCDPSession(page);
  const lines: string[] = [];
  const takeHeard = async (): Promise<void> => {
    const heard = await page.evaluate(() => (globalThis as unknown as Heard).heard.splice(0));
    lines.push(...heard.map((says) => `* ${says}`));
  };
  return {
    lines,
    press: async (key) => {
      await takeHeard();
      await page.keyboard.press(key);
      // What a key does to the focus it does soon; the body of the page is no place to be.
      await frames(page, 10);
      await page
        .waitForFunction(() => document.activeElement !== document.body, undefined, {
          timeout: 3000,
        })
        .catch(() => undefined);
      lines.push(`${key}: ${await focused(cdp)}`);
      await takeHeard();
    },
    begin: async (key) => {
      await takeHeard();
      lines.push(`${key}:`);
      await page.keyboard.press(key);
    },
    hear: async (says) => {
      for (let n = 0; n < 200; n++) {
        const now = await focused(cdp);
        if (says.test(now)) return void lines.push(`then: ${now}`);
        await frames(page, 3);
      }
      throw new Error(`The focus never was at ${String(says)}:\n${lines.join('\n')}`);
    },
    until: async (says) => {
      for (let n = 0; n < 400; n++) {
        await takeHeard();
        if (lines.some((line) => says.test(line))) return;
        await frames(page, 3);
      }
      throw new Error(`It never said ${String(says)}:\n${lines.join('\n')}`);
    },
  };
}
