/** The size of the page that is printed, and its margin, in mm. */
export function usePageSize(size: () => readonly [width: number, height: number] | null, margin: number) {
  useHead(() => {
    const is = size()
    return is ? { style: [`@page { size: ${is[0]}mm ${is[1]}mm; margin: ${margin}mm; }`] } : {}
  })
}
