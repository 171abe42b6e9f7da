import { map, of, timer, type Observable } from 'rxjs';
import { typedFor } from './typing';

/** What comes while letters are typed, after a pause: half a number or a word is seldom meant. For `switchMap`, so that the newest is told alone. */
export function onceTyped<T>(value: T): Observable<T> {
  const wait = typedFor();
  return wait > 0 ? timer(wait).pipe(map(() => value)) : of(value);
}
