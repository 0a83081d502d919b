/** A secret that is typed into a field, and what the client left for it: which part, and of which kind. */
export function useNotedSecret(asked: () => { readonly part: string | null; readonly kind: string | null }) {
  const route = useRoute()
  const { secrets, load, look } = useSecrets(() => (typeof route.params.code === 'string' ? route.params.code : null))
  onMounted(load)
  const typed = ref('')
  const noted = computed(() => {
    const { part, kind } = asked()
    return secrets.value.find((one) => one.part === part && one.kind === kind) ?? null
  })
  async function fillIn() {
    typed.value = (noted.value && (await look(noted.value.id))) ?? ''
  }
  return { typed, noted, fillIn }
}
