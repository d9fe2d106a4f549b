// What the modules of the plan share; what may lie where is said by the server after each change.

export const ROOM = 2; // the picture is so many times as wide and high as its frame

export const state = {
  view: null, // middle of what is seen in m, and metres for one pixel; kept while the plan is swapped
  drawn: null, // the view as it was last drawn; a moved view is that picture, shifted, until the hand rests
  plan: null,
  map: null,
  svg: null,
  first: null,
  lift: null, // what is being dragged, on a sheet of its own, so that nothing else is painted anew
  settle: null,
  taps: null, // points being tapped in, or null
  drag: null,
};
