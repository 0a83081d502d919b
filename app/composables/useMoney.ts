/** Money in the shop's currency, without pence where there are pounds. */
export function useMoney() {
  const session = useSessionStore()
  return (amount: number) =>
    numberWords(amount, {
      style: 'currency',
      currency: session.shop.currency,
      maximumFractionDigits: amount > 0 && amount < 10 ? 2 : 0,
      minimumFractionDigits: amount > 0 && amount < 10 ? 2 : 0,
    })
}
