/**
 * Lifetimes of wasm objects. In this build `delete()` frees nothing for most classes, but `Nullify`, `Clear`
 * and `Reset` let go of what an object refers to, which is most of the memory. Every object made goes into a
 * scope, and every scope is closed.
 */
interface Disposable {
  delete: () => void;
}

export class Scope {
  private readonly owned: Disposable[] = [];

  /** Takes an object in; it is let go when the scope closes. */
  own<T extends Disposable>(object: T): T {
    this.owned.push(object);
    return object;
  }

  close(): void {
    for (let i = this.owned.length - 1; i >= 0; i--) {
      const object = this.owned[i];
      if (object) dispose(object);
    }
    this.owned.length = 0;
  }
}

/** Runs `work` with a scope that closes whatever happens. */
export function withScope<T>(work: (scope: Scope) => T): T {
  const scope = new Scope();
  try {
    return work(scope);
  } finally {
    scope.close();
  }
}

const RELEASES = ['Nullify', 'Clear', 'Reset'] as const;

export function dispose(object: Disposable): void {
  for (const name of RELEASES) {
    const release: unknown = Reflect.get(object, name);
    if (typeof release === 'function' && release.length === 0) {
      try {
        Reflect.apply(release, object, []);
      } catch {
        // Bound overloads that want arguments refuse the call; there is nothing to let go of then.
      }
      break;
    }
  }
  object.delete();
}
