const FACES = ['14px "Commissioner Variable"', '14px "Literata Variable"', 'italic 14px "Literata Variable"'];
const LONGEST = 3000; // ms

/**
 * Until the faces of nearly all text are here: a face that came later would move what is about to be pressed. A face that does not
 * come keeps nothing back.
 */
export async function facesAreHere() {
  const late = new Promise((resolve) => window.setTimeout(resolve, LONGEST));
  await Promise.race([Promise.allSettled(FACES.map((face) => document.fonts.load(face))), late]);
}
