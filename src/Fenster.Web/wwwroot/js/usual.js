// Written by ./fenster contract from Fenster.Core: change it there.

export const usual = {
  hiddenRadius: 65,
  shapeReach: 40,
  spelling: { ignoreCapitals: true, ignoreAccents: false, ignorePunctuation: false, forgiveSlips: false },
  tolerance: { slack: 0, bands: [] },
}

export const limits = {
  longestText: 10000,
  longestAnswer: 1000,
  mostLabels: 2000,
  mostMatched: 500,
  mostOwnSpots: 50,
  longestSpotTitle: 200,
  longestSpotText: 3000,
  longestSource: 1000,
  longestLink: 2000,
}

/** In CSS pixels. */
export const thresholds = {
  advisedFingertip: 44,
  narrowestScreen: 360,
  smallPicture: 640,
}
