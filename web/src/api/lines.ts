/** Which lessons are followed over a live line. What is done there comes back over the line and is fetched once. */

const followed = new Set<number>();

export function setFollowed(lessonId: number, live: boolean): void {
  if (live) followed.add(lessonId);
  else followed.delete(lessonId);
}

export const isFollowed = (lessonId: number): boolean => followed.has(lessonId);
