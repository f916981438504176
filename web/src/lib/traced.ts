// Which move of the hand an answer belongs to and when it was painted, told as events of the window for whoever measures.

const moves = new WeakMap<object, number>();
let count = 0;

const tell = (what: string, move: number) =>
  window.dispatchEvent(new CustomEvent("oak-drum-traced", { detail: { what, move } }));

/** A document that came of a move of the hand. */
export function moved(document: object) {
  moves.set(document, ++count);
  tell("moved", count);
}

/** An answer belongs to the move its document came of. */
export function answers(document: object, answer: object) {
  moves.set(answer, moves.get(document) ?? 0);
}

/** An answer stands on the page. */
export function painted(what: string, answer: object) {
  tell(what, moves.get(answer) ?? 0);
}
