/** Work that several may ask for: it is done once, and stopped when nobody waits for it any more. */
export class SharedWork<T> {
  private readonly going = new Map<string, Going<T>>();

  /**
   * @param key the same for who asks for the same
   * @param waits aborted when this one no longer waits
   * @throws the reason of `waits`, where it is aborted first
   */
  ask(key: string, work: (signal: AbortSignal) => Promise<T>, waits: AbortSignal): Promise<T> {
    waits.throwIfAborted();
    const going = this.going.get(key) ?? this.begin(key, work);
    going.waiting++;
    return new Promise<T>((resolve, reject) => {
      const leave = (): void => {
        reject(waits.reason as Error);
        if (--going.waiting > 0) return;
        this.going.delete(key);
        going.stop.abort(waits.reason);
      };
      waits.addEventListener('abort', leave, { once: true });
      going.result.then(resolve, reject).finally(() => waits.removeEventListener('abort', leave));
    });
  }

  private begin(key: string, work: (signal: AbortSignal) => Promise<T>): Going<T> {
    const stop = new AbortController();
    const result = work(stop.signal).finally(() => {
      if (this.going.get(key) === going) this.going.delete(key);
    });
    const going = { result, stop, waiting: 0 };
    this.going.set(key, going);
    return going;
  }
}

interface Going<T> {
  readonly result: Promise<T>;
  readonly stop: AbortController;
  waiting: number;
}
