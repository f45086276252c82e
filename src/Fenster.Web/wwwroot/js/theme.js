// Bootstrap's colours follow the system's setting. Runs before the first paint, so it is no module.
;(() => {
  const dark = matchMedia('(prefers-color-scheme: dark)')
  const apply = () => document.documentElement.setAttribute('data-bs-theme', dark.matches ? 'dark' : 'light')
  dark.addEventListener('change', apply)
  apply()
  // Where the browser is, so that times are told as on the wall.
  document.cookie = `fenster-zone=${Intl.DateTimeFormat().resolvedOptions().timeZone}; path=/; max-age=31536000; samesite=lax`
})()
