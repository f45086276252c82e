/** Fills the screen, or gives it back; a browser may refuse. */
export const turnFull = () =>
  document.fullscreenElement ? document.exitFullscreen() : document.documentElement.requestFullscreen().catch(() => {})
