import '@fontsource-variable/besley'
import '@fontsource-variable/atkinson-hyperlegible-next'
import '../kit/theme/ground.css'
import '../kit/theme/marks.css'
import './public.css'
import './emergency.css'
import './list.css'

// The pages are whole without this: it only prints, and keeps the emergency cards for when the network is gone.
if ('serviceWorker' in navigator) {
  void navigator.serviceWorker.register('/sw.js').catch(() => undefined)
  // One look at one card keeps them all, once the worker is there.
  void navigator.serviceWorker.ready.then(() => {
    for (const card of document.querySelectorAll<HTMLAnchorElement>('a[data-keep]'))
      void fetch(card.href).catch(() => undefined)
  })
}

for (const button of document.querySelectorAll<HTMLButtonElement>('[data-print]')) {
  button.hidden = false
  button.addEventListener('click', () => window.print())
}
