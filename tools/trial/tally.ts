/** What came of one operation over all files. */
interface OfOperation {
  applied: number;
  idle: number;
  refused: Map<string, number>;
  faults: number;
  faultFiles: Set<string>;
  slowest: { ms: number; file: string };
}

/** What came of a trial, to be printed. */
export class Tally {
  private readonly rules = new Map<string, { files: Set<string>; findings: number }>();
  private readonly operations = new Map<string, OfOperation>();
  private readonly faults: string[] = [];
  files = 0;
  readonly refusedFiles = new Map<string, number>();
  mended = 0;
  sameBytes = 0;

  rule(rule: string, file: string, findings: number): void {
    const of = this.rules.get(rule) ?? { files: new Set(), findings: 0 };
    of.files.add(file);
    of.findings += findings;
    this.rules.set(rule, of);
  }

  private of(operation: string): OfOperation {
    let of = this.operations.get(operation);
    if (!of)
      this.operations.set(
        operation,
        (of = {
          applied: 0,
          idle: 0,
          refused: new Map(),
          faults: 0,
          faultFiles: new Set(),
          slowest: { ms: 0, file: '' },
        }),
      );
    return of;
  }

  applied(operation: string, file: string, ms: number, faults: number): void {
    const of = this.of(operation);
    of.applied++;
    of.faults += faults;
    if (faults > 0) of.faultFiles.add(file);
    if (ms > of.slowest.ms) of.slowest = { ms, file };
  }

  idle(operation: string, ms: number): void {
    const of = this.of(operation);
    of.idle++;
    if (ms > of.slowest.ms) of.slowest = { ms, file: '' };
  }

  refused(operation: string, code: string): void {
    const { refused } = this.of(operation);
    refused.set(code, (refused.get(code) ?? 0) + 1);
  }

  /** A promise that was not kept: the trial fails. */
  broken(file: string, what: string): void {
    this.faults.push(`${file}: ${what}`);
  }

  /** Prints everything; gives how many promises were broken. */
  print(line: (text: string) => void): number {
    const refused = [...this.refusedFiles].map(([code, n]) => `${n} ${code}`).join(', ');
    line(
      `${this.files} files read, ${this.mended} of them mended, ${refused ? `refused: ${refused}` : 'none refused'}; ${this.sameBytes} sound ones leave untouched as their very bytes`,
    );
    line('\nRule                      files  findings');
    for (const [rule, { files, findings }] of [...this.rules].sort(
      (a, b) => b[1].files.size - a[1].files.size,
    ))
      line(`${rule.padEnd(24)} ${String(files.size).padStart(6)} ${String(findings).padStart(9)}`);
    line('\nOperation                applied  idle  refused  faults told (files)  slowest');
    for (const [id, of] of [...this.operations].sort(([a], [b]) => a.localeCompare(b))) {
      const codes = [...of.refused].map(([code, n]) => `${n} ${code}`).join(', ');
      const faults = of.faults > 0 ? `${of.faults} (${of.faultFiles.size})` : '0';
      line(
        `${id.padEnd(24)} ${String(of.applied).padStart(7)} ${String(of.idle).padStart(5)} ${String([...of.refused.values()].reduce((a, b) => a + b, 0)).padStart(8)}  ${faults.padEnd(19)}  ${of.slowest.ms.toFixed(0)} ms ${of.slowest.file}${codes ? `  [${codes}]` : ''}`,
      );
    }
    line(
      this.faults.length === 0
        ? '\nEvery untouched track stayed the same bytes, every undo gives back the very bytes, every handoff is proven, every fault that a step made is told.'
        : `\nBROKEN PROMISES: ${this.faults.length}`,
    );
    for (const fault of this.faults.slice(0, 50)) line(`  ${fault}`);
    return this.faults.length;
  }
}
