import { useEventListener, useLocalStorage } from '@vueuse/core'

/** True where a key belongs to the focused element, a text field or an open menu, or to an open dialog. */
const isTaken = (target: EventTarget | null) =>
  document.querySelector('[role="dialog"]') !== null ||
  (target instanceof HTMLElement &&
    (target.isContentEditable ||
      /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) ||
      target.closest('[role="menu"]') !== null))

/** Whether single keys are on at this machine (WCAG 2.1.4: people can switch them off). */
export const useSingleKeysSwitch = () => useLocalStorage('lantern:single-keys', true)

/** The keys that act where somebody is, for the list of keys; several parts of a page may take the same one. */
const listed = shallowReactive<{ readonly keys: readonly string[] }[]>([])
export const keysOfPage = computed(() => new Set(listed.flatMap(({ keys }) => keys)))

/** The single-key shortcuts of a page. They are off while somebody types, with a modifier, and over a dialog. */
export function useSingleKeys(keys: Record<string, () => void>) {
  const isOn = useSingleKeysSwitch()
  const own = { keys: Object.keys(keys) }
  listed.push(own)
  onScopeDispose(() => listed.splice(listed.indexOf(own), 1))
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
