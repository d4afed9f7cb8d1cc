/** At the start: the data folder is taken and looked at, so that what is wrong with it is on the terminal before anybody asks. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return
  const { endSoon } = await import('./server/ending')
  endSoon()
  const { store, storageTroubleHere } = await import('./server/data')
  try {
    const { bringUpMeanwhile } = await import('./server/counting')
    bringUpMeanwhile(store())
  } catch (e) {
    if (!storageTroubleHere(e)) throw e
  }
  const { keepBackingUp } = await import('./server/backups')
  keepBackingUp()
}
