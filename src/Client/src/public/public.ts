import './all.css'
import { nearMissPage } from './nearMiss'

// The pages are whole without this: it prints, keeps the cards for when the network is gone, and sends near misses.
void import('./keep').then(({ keepForOffline }) => keepForOffline())

for (const button of document.querySelectorAll<HTMLButtonElement>('[data-print]')) {
  button.hidden = false
  button.addEventListener('click', () => window.print())
}

const nearMiss = document.querySelector<HTMLElement>('[data-nearmiss]')
if (nearMiss) nearMissPage(nearMiss)
