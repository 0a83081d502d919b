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

/** What a key does, in words for the list of keys, and doing it. */
type SingleKey = readonly [says: string, act: () => unknown]

/** The keys that act where somebody is, with what they do. */
const listed = shallowReactive<Readonly<Record<string, SingleKey>>[]>([])
export const keysOfPage = computed(() =>
  listed.flatMap((keys) => Object.entries(keys).map(([key, [says]]) => ({ key, says }))),
)

/** The single-key shortcuts of a page. They are off while somebody types, with a modifier, and over a dialog. */
export function useSingleKeys(keys: Readonly<Record<string, SingleKey>>) {
  const isOn = useSingleKeysSwitch()
  listed.push(keys)
  onScopeDispose(() => listed.splice(listed.indexOf(keys), 1))
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
    const [, act] = keys[event.key] ?? keys[event.key.toLowerCase()] ?? []
    if (!act) return
    event.preventDefault()
    act()
  })
}
