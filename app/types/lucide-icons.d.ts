// One icon at a time: the package's index makes every build read all of its thousands.
declare module 'lucide-vue-next/dist/esm/icons/*.js' {
  import type { LucideIcon } from 'lucide-vue-next'

  const icon: LucideIcon
  export default icon
}
