/** Times real time at which what is simulated may run. */
export const PACES = [1, 10, 60, 300];
