// What has happened in a game: a list of what was done, so that each step can be taken back. It stays on this device.

export const mostTeams = 6

/**
 * @typedef {{kind: 'open', spot: string} | {kind: 'points', team: number, points: number}} Step A spot is `pane/spot`.
 * @typedef {{teams: string[], steps: Step[]}} Kept Names of the teams, the empty one for its number.
 */

/** @returns {Kept} */
export const fresh = () => ({ teams: ['', ''], steps: [] })

/** What was kept, or a fresh game where there is nothing that can be read. @param {string | null} text @returns {Kept} */
export function read(text) {
  try {
    const kept = JSON.parse(text ?? '')
    const teams = kept.teams.slice(0, mostTeams).map(String)
    const steps = kept.steps.filter(
      (/** @type {any} */ step) =>
        (step.kind === 'open' && typeof step.spot === 'string') ||
        (step.kind === 'points' && Number.isInteger(step.team) && Number.isFinite(step.points)),
    )
    return teams.length > 0 ? { teams, steps } : fresh()
  } catch {
    return fresh()
  }
}

/** @param {Kept} kept @returns {{scores: number[], opened: Set<string>}} */
export function standing({ teams, steps }) {
  const scores = teams.map(() => 0)
  const opened = new Set()
  for (const step of steps) {
    if (step.kind === 'open') opened.add(step.spot)
    // Decimals are added as such: 0.1 and 0.2 are 0.3.
    else if (step.team < scores.length) scores[step.team] = Number((scores[step.team] + step.points).toPrecision(12))
  }
  return { scores, opened }
}

/** @param {Kept} kept @param {Step} step @returns {Kept} */
export const withStep = (kept, step) => ({ ...kept, steps: [...kept.steps, step] })

/** @param {Kept} kept @returns {Kept} Without what was done last. */
export const takenBack = kept => ({ ...kept, steps: kept.steps.slice(0, -1) })

/** The team goes with its points; those after it keep theirs. @param {Kept} kept @param {number} team @returns {Kept} */
export const withoutTeam = ({ teams, steps }, team) => ({
  teams: teams.filter((_, i) => i !== team),
  steps: steps.flatMap(step =>
    step.kind !== 'points' || step.team < team ? [step] : step.team === team ? [] : [{ ...step, team: step.team - 1 }],
  ),
})
