// Prints the page.

document.getElementById('print')?.addEventListener('click', () => print())
