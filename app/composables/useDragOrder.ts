import Sortable from 'sortablejs'

/**
 * Lets the members of a list be dragged by a handle. The drop position follows from old and new index; the list itself
 * is restored, since what it shows follows from the data.
 */
export function useDragOrder(
  list: Readonly<Ref<HTMLElement | null>>,
  handle: string,
  moved: (item: HTMLElement, by: number) => void,
  mayMove: () => boolean,
) {
  let sortable: Sortable | null = null
  watch(
    list,
    (element) => {
      sortable?.destroy()
      sortable = element
        ? Sortable.create(element, {
            handle,
            // One implementation of dragging for mouse, pen and touch, instead of each browser's own.
            forceFallback: true,
            fallbackTolerance: 4,
            animation: 0,
            onEnd: ({ item, oldIndex, newIndex }) => {
              if (oldIndex === undefined || newIndex === undefined || oldIndex === newIndex) return
              element.insertBefore(item, element.children[oldIndex + (newIndex < oldIndex ? 1 : 0)] ?? null)
              if (mayMove()) moved(item, newIndex - oldIndex)
            },
          })
        : null
    },
    { immediate: true, flush: 'post' },
  )
  onScopeDispose(() => sortable?.destroy())
}
