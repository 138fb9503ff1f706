/** Waits this long, so that what comes together is one. */
const TOGETHER = 100

/**
 * Does something soon after it is called, though at most once in so many milliseconds. The last call is always followed
 * by doing it: what is on screen never stays behind what was told last.
 */
export function seldom(act: () => void, every: number) {
  let timer: ReturnType<typeof setTimeout> | undefined
  let done = -Infinity
  const call = () => {
    timer ??= setTimeout(
      () => {
        timer = undefined
        done = Date.now()
        act()
      },
      Math.max(TOGETHER, done + every - Date.now()),
    )
  }
  const stop = () => {
    clearTimeout(timer)
    timer = undefined
  }
  return { call, stop }
}
