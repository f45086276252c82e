// A page that has the work in it from the beginning, as a trial has.

import { open } from './main.js'

const work = document.getElementById('work')
if (work) open(work)
