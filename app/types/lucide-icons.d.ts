// Icons are imported one by one: the package's index makes every build read thousands of files.
declare module 'lucide-vue-next/dist/esm/icons/*.js' {
  import type { LucideIcon } from 'lucide-vue-next'

  const icon: LucideIcon
  export default icon
}
