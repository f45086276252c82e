// What lies under a finger that puts a pin down, shown enlarged beside it.

const times = 2.6
const size = 124

/** @param {import('./stage.js').Stage} stage */
export function createLoupe(stage) {
  const glass = document.createElement('div')
  glass.className = 'loupe'
  glass.setAttribute('aria-hidden', 'true')
  const image = /** @type {HTMLImageElement} */ (stage.element.querySelector('img'))

  return {
    /** @param {{clientX: number, clientY: number}} at What is meant. */
    show({ clientX, clientY }) {
      const box = stage.element.getBoundingClientRect()
      const [x, y] = [clientX - box.left, clientY - box.top]
      if (!glass.isConnected) {
        glass.style.backgroundImage = `url("${image.currentSrc || image.src}")`
        document.body.append(glass)
      }
      glass.style.backgroundSize = `${box.width * times}px ${box.height * times}px`
      glass.style.backgroundPosition = `${size / 2 - 3 - x * times}px ${size / 2 - 3 - y * times}px`
      // On the side where the screen has room.
      const isLeft = clientX > innerWidth / 2
      glass.style.left = `${isLeft ? Math.max(4, clientX - size - 56) : Math.min(innerWidth - size - 4, clientX + 56)}px`
      glass.style.top = `${Math.max(4, clientY - size - 12)}px`
    },
    hide: () => glass.remove(),
  }
}
