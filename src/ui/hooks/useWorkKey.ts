import { useHotkeys } from 'react-hotkeys-hook';

/** Controls that do something of their own with the keys that also move the playhead. */
const OWN_KEYS = 'button, a, summary, select, [role="slider"], [role="menuitem"], [role="radio"], [role="option"]';

/**
 * Binds a key of the work, left alone while a control that uses it has the focus.
 */
export function useWorkKey(keys: string, act: () => void): void {
  useHotkeys(keys, act, {
    preventDefault: true,
    ignoreEventWhen: (event) => event.target instanceof Element && event.target.closest(OWN_KEYS) !== null,
  });
}

/**
 * Binds a key that means the same wherever the focus is, but for fields that take text.
 */
export function useActKey(keys: string, act: (event: KeyboardEvent) => void): void {
  const options = { preventDefault: true, enableOnFormTags: ['radio', 'slider', 'option', 'menuitem'] } as const;
  useHotkeys(keys, act, options);
}
