// Draws one diagram with printed names, reads it as the workbench does, and compares. Runs in a page of Fenster.
const [wish, done] = arguments
const run = async () => {
  const base = document.querySelector('script[src*="/js/zone.js"]').src.replace('zone.js', '')
  const { namesOn } = await import(`${base}reading/reader.js`)
  const { overlap } = await import(`${base}reading/names.js`)
  const drawing = new Image()
  drawing.src = `${base.replace('/js/', '/library/')}${wish.file}`
  await drawing.decode()
  await document.fonts.load(`16px "${wish.font}"`)
  const scale = wish.width / 1000
  const canvas = document.createElement('canvas')
  canvas.width = 1000 * scale
  canvas.height = 750 * scale
  const context = canvas.getContext('2d')
  context.fillStyle = '#fff'
  context.fillRect(0, 0, canvas.width, canvas.height)
  context.translate(canvas.width / 2, canvas.height / 2)
  context.rotate((wish.turn * Math.PI) / 180)
  context.scale(scale, scale)
  context.translate(-500, -375)
  const shrink = Math.min(520 / drawing.naturalWidth, 560 / drawing.naturalHeight)
  const [w, h] = [drawing.naturalWidth * shrink, drawing.naturalHeight * shrink]
  context.drawImage(drawing, 500 - w / 2, 375 - h / 2, w, h)
  context.font = `${wish.fontSize}px "${wish.font}"`
  context.fillStyle = context.strokeStyle = '#151515'
  context.lineWidth = 1.3
  const half = wish.names.length / 2
  const printed = wish.names.map((name, i) => {
    const isLeft = i < half
    // Long names stand in two lines, as in books.
    const space = name.length > 13 ? name.lastIndexOf(' ') : -1
    const lines = space < 0 ? [name] : [name.slice(0, space), name.slice(space + 1)]
    const wide = Math.max(...lines.map(line => context.measureText(line).width))
    const [x, y] = [isLeft ? 28 : 972 - wide, 70 + (i % half) * (610 / (half - 1))]
    const line = wish.fontSize * 1.2
    lines.forEach((words, n) => context.fillText(words, x, y + n * line))
    context.beginPath()
    // From the line that stands beside it.
    const own = context.measureText(lines[0]).width
    context.moveTo(isLeft ? x + own + wish.gap : x - wish.gap, y - wish.fontSize * 0.35)
    context.lineTo(500 + (isLeft ? -1 : 1) * w * 0.3, 375 + (y - 375) * 0.45)
    context.stroke()
    const turned = (px, py) => {
      const [dx, dy, a] = [px - 500, py - 375, (wish.turn * Math.PI) / 180]
      return [500 + dx * Math.cos(a) - dy * Math.sin(a), 375 + dx * Math.sin(a) + dy * Math.cos(a)]
    }
    const [left, top] = turned(x, y - wish.fontSize)
    const [right, bottom] = turned(x + wide, y + (lines.length - 1) * line + wish.fontSize * 0.3)
    return { name, box: { left: left / 1000, top: top / 1000, right: right / 1000, bottom: bottom / 1000 } }
  })
  let image = canvas
  if (wish.isJpeg) {
    image = new Image()
    image.src = canvas.toDataURL('image/jpeg', 0.6)
    await image.decode()
  }
  const read = await namesOn({ image, width: canvas.width, height: canvas.height }, 'en')
  const at = ({ box }) => read.filter(name => overlap(name.box, box) > 0.4)
  return {
    found: printed.filter(one => at(one).length > 0).length,
    right: printed.filter(one => at(one).some(name => name.text === one.name)).length,
    unmarked: printed.filter(one => at(one).length > 0 && at(one).every(name => name.text !== one.name && !name.isDoubtful)).length,
    wrongly: read.filter(name => printed.every(one => overlap(name.box, one.box) <= 0.4)).length,
  }
}
run().then(done, error => done({ error: String(error?.stack ?? error) }))
