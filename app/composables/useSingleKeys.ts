import { createSharedComposable, useEventListener, useLocalStorage } from '@vueuse/core'

/** True where a key belongs to the focused element, a text field or an open menu, or to an open dialog. */
const isTaken = (target: EventTarget | null) =>
  document.querySelector('[role="dialog"]') !== null ||
  (target instanceof HTMLElement &&
    (target.isContentEditable ||
      /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) ||
      target.closest('[role="menu"]') !== null))

/** Whether single keys are on at this machine (WCAG 2.1.4: people can switch them off). */
export const useSingleKeysSwitch = () => useLocalStorage('lantern:single-keys', true)

/** The list of keys is open. */
export const isKeySheetOpen = ref(false)
export const showKeys = () => (isKeySheetOpen.value = true)

/** What a key does, in words for the list of keys, and doing it. */
type SingleKey = readonly [says: string, act: () => unknown]

/** The keys that act where somebody is, with what they do. */
const listed = shallowReactive<Readonly<Record<string, SingleKey>>[]>([])
export const keysOfPage = computed(() =>
  listed.flatMap((keys) => Object.entries(keys).map(([key, [says]]) => ({ key, says }))),
)

/** Letters and signs can be changed (WCAG 2.1.4); digits stand beside the answers that they choose. */
export const canChangeKey = (key: string) => /^[\p{L}\p{P}\p{S}]$/u.test(key)

/** Keys that this machine has changed: the shipped one, and the one in its place. */
export const useOwnKeys = createSharedComposable(() => {
  const own = useLocalStorage<Record<string, string>>('lantern:keys', {})
  const inForce = (key: string) => own.value[key] ?? key

  /** Puts a key in the place of a shipped one; returns what is wrong with it, or null. */
  function change(shipped: string, to: string): string | null {
    const key = to.toLowerCase()
    if (!canChangeKey(key)) return 'Type one letter or sign.'
    const other = keysOfPage.value.find((one) => one.key !== shipped && inForce(one.key) === key)
    if (other) return `“${key}” is for “${other.says}” here.`
    const { [shipped]: _before, ...others } = own.value
    own.value = key === shipped ? others : { ...others, [shipped]: key }
    return null
  }
  return { own, inForce, change, reset: () => (own.value = {}) }
})

/** The single-key shortcuts of a page, by their shipped keys. They are off while somebody types, with a modifier, and over a dialog. */
export function useSingleKeys(keys: Readonly<Record<string, SingleKey>>) {
  const isOn = useSingleKeysSwitch()
  const { own, inForce } = useOwnKeys()
  listed.push(keys)
  onScopeDispose(() => listed.splice(listed.indexOf(keys), 1))
  const actOf = (typed: string) => {
    const all = keysOfPage.value.filter(({ key }) => inForce(key) === typed)
    // On the whole page, a key that somebody chose comes before one that was shipped.
    const taken = all.find(({ key }) => own.value[key] !== undefined) ?? all[0]
    return taken && keys[taken.key]?.[1]
  }
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
    const act = actOf(event.key) ?? actOf(event.key.toLowerCase())
    if (!act) return
    event.preventDefault()
    act()
  })
}
