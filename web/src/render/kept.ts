/** Models by what they were made of; of more than so many, those go that were not asked for longest. */
export class Kept<K extends object, V extends { dispose: () => void }> {
  private readonly models = new Map<K, V>();

  constructor(
    private readonly most: number,
    private readonly make: (of: K) => V,
  ) {}

  /** The model of something; `needed` does not go. */
  of(key: K, needed: V | null = null): V {
    const known = this.models.get(key) ?? this.make(key);
    this.models.delete(key);
    this.models.set(key, known);
    for (const [old, model] of this.models) {
      if (this.models.size <= this.most) break;
      if (model === needed || model === known) continue;
      model.dispose();
      this.models.delete(old);
    }
    return known;
  }

  has(key: K): V | undefined {
    return this.models.get(key);
  }

  all(): Iterable<V> {
    return this.models.values();
  }
}
