/** Lessons followed over a live connection; their changes arrive there and are fetched once. */

const followed = new Set<number>();

export function setFollowed(lessonId: number, live: boolean): void {
  if (live) followed.add(lessonId);
  else followed.delete(lessonId);
}

export const isFollowed = (lessonId: number): boolean => followed.has(lessonId);
