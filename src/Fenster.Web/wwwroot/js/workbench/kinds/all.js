// Every kind of target that the workbench makes. A new kind is a module of its own and a line here.

import { hotspots } from './hotspots.js'
import { matching } from './matching.js'
import { scalePoint } from './scales.js'
import { ownPicture } from './own.js'
import { sortRegion } from './sorting.js'
import { infoSpot, lock, questionPoint } from './spots.js'
import { answerBox, openNote } from './typed.js'
import { dropZone, hiddenZone } from './zones.js'

/**
 * @typedef {object} Kind
 * @property {string} word
 * @property {boolean} isPoint
 * @property {string} [sign] Stands in its spot.
 * @property {boolean} [isRinged] Whether its spot has a second ring.
 * @property {boolean} [isList] Whether several answers are typed into its row.
 * @property {'region' | 'point' | null} asks What a click or a drag gives it; null for nothing on the picture.
 * @property {(pane: PanePart, at: any, chosen: string | null) => {pane: PanePart, id: string}} make
 * @property {(target: any) => Region[]} shapes
 * @property {(target: any, part: number, region: Region) => any} withShape
 * @property {(target: any, pane: PanePart) => {text: string, placeholder: string, name: string,
 *   label?: string}} main What its row is typed into.
 * @property {(pane: PanePart, target: any, text: string) => PanePart} rename
 * @property {(target: any, pane: PanePart) => import('./fields.js').Field[][]} lines
 * @property {(pane: PanePart, target: any, name: string, value: any) => PanePart} set
 * @property {string[]} [needs] Fields that are asked for at once here, though other kinds mostly do without.
 */

/** @type {Record<TargetPart['kind'], Kind>} */
export const kinds = {
  dropZone,
  hiddenZone,
  hotspots,
  answerBox,
  questionPoint,
  scalePoint,
  sortRegion,
  infoSpot,
  lock,
  openNote,
  matching,
  ownPicture,
}
