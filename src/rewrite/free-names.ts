/**
 * Gives names that stand nowhere in some texts. Each answer is given once.
 * @param texts every text in which a name could clash
 */
export function freeNames(texts: readonly string[]): (wished: string, ...others: string[]) => string {
  const taken = new Set(texts.flatMap((text) => text.match(/[A-Za-z_$][\w$]*/g) ?? []));
  return (wished, ...others) => {
    const candidates = [wished, ...others];
    let name = candidates.find((candidate) => !taken.has(candidate));
    for (let number = 2; name === undefined; number++) {
      const numbered = `${wished}${number}`;
      if (!taken.has(numbered)) name = numbered;
    }
    taken.add(name);
    return name;
  };
}
