import { photos } from './plain'

const signed = (n: number) => (n > 0 ? `+${n}` : n < 0 ? `−${-n}` : '0')

/** How photos are corrected: turned, straightened, cropped, their light, and prints found on a scan. */
export const correctionWords = {
  correct: {
    verb: 'Correct',
    title: (n: number, of: number) =>
      of > 1 ? `${n.toLocaleString('en')} of ${of.toLocaleString('en')} in hand` : '',
    nothingLead:
      'Take photos in hand on a sheet, or open one; it is turned, cropped and made brighter here. Its original never changes.',
    cannot: 'This photo cannot be seen yet.',
    back: 'Back',
    goesOn: 'What you change goes on',
    onThis: 'this photo',
    onAll: (n: number) => `all ${n.toLocaleString('en')} in hand`,
    parts: { shape: 'Shape', light: 'Light and colour', focus: 'What stays in view' },
    saysShape: (turns: number, angle: number, shape: string) => {
      const said = [
        ['', 'turned once', 'turned upside down', 'turned to the left'][turns] ?? '',
        angle === 0
          ? ''
          : `straightened by ${Math.abs(angle).toLocaleString('en')}° to the ${angle > 0 ? 'right' : 'left'}`,
        shape,
      ].filter(Boolean)
      const all = said.join(', ')
      return all === '' ? 'As it was taken' : `${all.charAt(0).toUpperCase()}${all.slice(1)}`
    },
    cropped: (ratio: string) => (ratio === '' ? 'cropped' : `cropped to ${ratio}`),
    saysLight: (brightness: number, contrast: number, grey: boolean) => {
      const said = [
        brightness === 0 ? '' : brightness > 0 ? `brighter by ${brightness}` : `darker by ${-brightness}`,
        contrast === 0 ? '' : `${contrast > 0 ? 'more' : 'less'} contrast by ${Math.abs(contrast)}`,
        grey ? 'black and white' : '',
      ].filter(Boolean)
      const all = said.join(', ')
      return all === '' ? 'As it was taken, in colour' : `${all.charAt(0).toUpperCase()}${all.slice(1)}`
    },
    saysFocus: (chosen: boolean) => (chosen ? 'Chosen by hand' : 'The middle'),
    turn: 'Turn',
    left: 'to the left',
    right: 'to the right',
    level: 'Straighten',
    draw: 'Draw the horizon',
    drawLead: 'Draw a line along what should lie level, or stand upright.',
    degrees: (n: number) => `${n.toLocaleString('en', { minimumFractionDigits: 1 })}°`,
    crop: 'Crop to',
    shapes: {
      free: 'any shape',
      asShot: 'as taken',
      square: '1:1',
      fiveFour: '5:4',
      fourThree: '4:3',
      paper: 'A4',
      threeTwo: '3:2',
      sixteenNine: '16:9',
    },
    upright: 'Standing instead of lying',
    lying: 'Lying instead of standing',
    frame: 'What is kept: the arrows move it, Shift and the arrows make it larger and smaller',
    size: (w: number, h: number) => `${w.toLocaleString('en')} × ${h.toLocaleString('en')} pixels`,
    brightness: 'Brightness',
    contrast: 'Contrast',
    signed,
    inColour: 'in colour',
    grey: 'black and white',
    colours: { red: 'Red', green: 'Green', blue: 'Blue' },
    coloursLead: 'How light each colour becomes:',
    focusLead: 'Press what must stay in view where a page or a cover has less room than the photo wants.',
    inMiddle: 'Back to the middle',
    before: 'As it came in',
    reset: 'Take all of it back',
    resetLight: 'Take light and colour back',
    copy: (n: number) =>
      `Same on ${n === 1 ? 'the other one' : `the other ${n.toLocaleString('en')}`} in hand`,
    copyLight: (n: number) =>
      `Same light on ${n === 1 ? 'the other one' : `the other ${n.toLocaleString('en')}`} in hand`,
    copied: (n: number) => `Corrected ${photos(n)} in the same way.`,
    done: (n: number, back: boolean) =>
      n === 0
        ? 'Nothing had to be changed.'
        : back
          ? `Took the corrections of ${photos(n)} back.`
          : `Corrected ${photos(n)}.`,
    saving: 'being written',
    look: 'Look for prints on it',
    looking: 'Looking…',
    foundNone: 'It is one picture: no prints lie apart from one another on it.',
    found: (n: number) =>
      n === 1 ? 'One print lies on the glass.' : `${n.toLocaleString('en')} prints lie on the glass.`,
    foundLead:
      'Press one to leave it out. Each becomes a photo of its own, upright, with the credit and the albums of the scan; the scan stays.',
    print: (n: number) => `Print ${n}`,
    cut: (n: number) => (n === 1 ? 'Make it a photo' : `Make them ${n.toLocaleString('en')} photos`),
    cutDone: (n: number) =>
      n === 0 ? 'These were cut out already.' : `Made ${photos(n)}; they are in hand.`,
    leaveWhole: 'Leave it whole',
  },
}
