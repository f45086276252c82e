// Asks for what the device may see while styles and the page's other script are still on their way, where the page brought nothing along.

import { askFirst } from './asking.js'

askFirst()
