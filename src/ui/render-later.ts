let calm = false;

/**
 * Does work whose change is seen at once in a picture that is drawn outside of React: the rest of the page may follow when that
 * has been painted. What holds the state that changes asks `isCalm`.
 */
export function renderLater(work: () => void): void {
  const before = calm;
  calm = true;
  try {
    work();
  } finally {
    calm = before;
  }
}

/** True while something is done calmly. */
export const rendersLater = (): boolean => calm;
