import { useEventListener, useLocalStorage } from '@vueuse/core'

/** True where a key belongs to what has the focus, somewhere to type or an open menu, or to a dialog that is open at all. */
const isTaken = (target: EventTarget | null) =>
  document.querySelector('[role="dialog"]') !== null ||
  (target instanceof HTMLElement &&
    (target.isContentEditable ||
      /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) ||
      target.closest('[role="menu"]') !== null))

/** Whether single keys act at all on this machine (WCAG 2.1.4: they can be switched off). */
export const useSingleKeysSwitch = () => useLocalStorage('lantern:single-keys', true)

/** Single keys of a page. They never act while somebody types, with a modifier, or over a dialog. */
export function useSingleKeys(keys: Record<string, () => void>) {
  const isOn = useSingleKeysSwitch()
  useEventListener('keydown', (event: KeyboardEvent) => {
    if (
      !isOn.value ||
      event.defaultPrevented ||
      event.ctrlKey ||
      event.altKey ||
      event.metaKey ||
      isTaken(event.target)
    )
      return
    const act = keys[event.key] ?? keys[event.key.toLowerCase()]
    if (!act) return
    event.preventDefault()
    act()
  })
}
