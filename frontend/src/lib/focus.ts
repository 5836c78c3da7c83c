/** A field that is focused when it comes up, where it came up because a hand asked for it. */
export const focused = (field: HTMLElement | null): void => field?.focus();
