// What a scale reads at the spot that is pointed at, where the teacher lets it be seen; and the same as a value to be typed.

import { phrase } from '../language.js'
import { pointOnScale, tidied, valueOf, valueOnScale, wordsOf } from '../scene/scale.js'

/**
 * The scale on which a thing in the hand shows its value.
 * @param {PaneView} pane
 * @param {string} held A label or a mark.
 * @returns {Scale | null} Null where nothing is read out, or a label could be meant for several scales.
 */
export function scaleFor(pane, held) {
  const showing = pane.targets.flatMap(target => (target.kind === 'showing' && target.showsValue ? [target] : []))
  const marked = showing.find(target => target.id === held && target.byMark)
  if (marked) return marked.scale
  if (!pane.labels.some(label => label.id === held)) return null
  const scales = showing.filter(target => !target.byMark).map(target => target.scale)
  return scales.length > 0 && scales.every(scale => JSON.stringify(scale) === JSON.stringify(scales[0])) ? scales[0] : null
}

/** @param {Scale} scale @param {Point} at @returns {string[]} A value for each axis. */
const readAt = (scale, at) => {
  const { x, y } = valueOnScale(scale, at)
  return [wordsOf(scale.x, tidied(scale.x, x)), ...(scale.y ? [wordsOf(scale.y, tidied(scale.y, y))] : [])]
}

/** What a scale reads at a spot, as it is said. @param {Scale} scale @param {Point} at */
const saidAt = (scale, at) => readAt(scale, at).join(' / ')

/**
 * Fields that show the value and take one.
 * @param {Scale} scale
 * @param {(at: Point, typed: string) => void} put
 */
export function valueFields(scale, put) {
  const form = document.createElement('form')
  form.className = 'read-out'
  const inputs = [scale.x, scale.y].flatMap((axis, i) => {
    if (!axis) return []
    const label = document.createElement('label')
    const input = document.createElement('input')
    input.className = 'form-control'
    input.dataset.name = `value ${i}`
    input.inputMode = axis.kind === 'date' ? 'text' : 'decimal'
    input.autocomplete = 'off'
    input.required = true
    const name = Object.assign(document.createElement('span'), { className: 'read-out-name' })
    name.textContent = phrase(i === 0 ? 'screen.value' : 'screen.valueUp')
    label.append(name, input)
    form.append(label)
    return [input]
  })
  const button = document.createElement('button')
  button.className = 'btn btn-outline-primary'
  button.textContent = phrase('screen.putValue')
  form.append(button)
  form.addEventListener('submit', event => {
    event.preventDefault()
    const [x, y] = [scale.x, scale.y].map((axis, i) => (axis ? valueOf(axis, inputs[i].value) : 0))
    const wrong = [x, y].indexOf(null)
    if (x === null || y === null) return inputs[wrong].focus()
    put(pointOnScale(scale, x, y), inputs.map(input => input.value.trim()).join(' / '))
  })
  return {
    form,
    /** @param {Point} at What is pointed at; what is being typed stays. */
    read(at) {
      if (!form.contains(document.activeElement)) readAt(scale, at).forEach((value, i) => (inputs[i].value = value))
    },
  }
}

/**
 * The fields among the tools, while something is in the hand.
 * @param {HTMLElement} tools
 * @param {{pane: () => PaneView, put: (held: {label: string, copy: number}, at: Point, typed: string) => void}} actions
 */
export function createReadOut(tools, { pane, put }) {
  /** @type {ReturnType<typeof valueFields> | null} */
  let fields = null
  return {
    /** @param {{label: string, copy: number} | null} held */
    hold(held) {
      const scale = held && scaleFor(pane(), held.label)
      fields?.form.remove()
      fields = scale ? valueFields(scale, (at, typed) => put(held, at, typed)) : null
      if (fields) tools.insertBefore(fields.form, tools.querySelector('#check'))
    },
    /** @param {Point} at */
    read: at => fields?.read(at),
    /** What may be said of a thing that was put down. @param {string} held @param {Point} at @returns {string | null} */
    say(held, at) {
      const scale = scaleFor(pane(), held)
      return scale && saidAt(scale, at)
    },
  }
}
