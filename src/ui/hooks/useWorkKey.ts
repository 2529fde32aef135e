import { useHotkeys } from 'react-hotkeys-hook';

/** Controls that do something of their own with the keys that also move the playhead. */
const OWN_KEYS = 'button, a, summary, [role="slider"], [role="radio"], input';

/** What is open over the page has the keys to itself. */
const OVER_THE_PAGE = '[role="dialog"], [role="menu"], [role="listbox"]';

/** Fields that take text. */
const TEXT = 'textarea, select, [contenteditable="true"], input:not([type="checkbox"], [type="radio"], [type="range"])';

/**
 * Whether whoever works here last moved the focus by key: only then do controls keep their keys. After a press of the
 * mouse the focus merely stayed where it was pressed.
 */
let isByKeyboard = false;
if (typeof window !== 'undefined') {
  window.addEventListener('pointerdown', () => (isByKeyboard = false), true);
  window.addEventListener('keydown', ({ key }) => (isByKeyboard ||= key === 'Tab'), true);
}

function isTyping(target: Element): boolean {
  return target.closest(TEXT) !== null;
}

/**
 * Binds a key of the work. It works wherever the focus is, unless text is typed, something is open over the page, or a
 * control that was reached by keyboard uses the key itself.
 */
export function useWorkKey(keys: string, act: () => void): void {
  useBound(
    keys,
    act,
    (target) => target.closest(OVER_THE_PAGE) !== null || (isByKeyboard && target.closest(OWN_KEYS) !== null),
  );
}

/**
 * Binds a key that means the same wherever the focus is, but for fields that take text. Held down it counts once.
 */
export function useActKey(keys: string, act: (event: KeyboardEvent) => void): void {
  useBound(
    keys,
    (event) => !event.repeat && act(event),
    () => false,
  );
}

function useBound(keys: string, act: (event: KeyboardEvent) => void, isTaken: (target: Element) => boolean): void {
  useHotkeys(keys, act, {
    preventDefault: true,
    enableOnFormTags: true,
    ignoreEventWhen: (event) => event.target instanceof Element && (isTyping(event.target) || isTaken(event.target)),
  });
}
