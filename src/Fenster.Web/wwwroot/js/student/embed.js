// Shows the framed activity when it says that it is there. Where its frame is refused, the words about it stay.

addEventListener('message', event => {
  if (event.origin !== location.origin || event.data !== 'fenster-is-here') return
  document.body.classList.add('embedded-here')
})
