const RAISED = "⁰¹²³⁴⁵⁶⁷⁸⁹⁺⁻";
const PLAIN = "0123456789+-";
const GREEK: Record<string, string> = {
  α: "alpha", β: "beta", γ: "gamma", δ: "delta", ε: "varepsilon", ζ: "zeta", η: "eta", θ: "theta", κ: "kappa", λ: "lambda", μ: "mu", µ: "mu", ν: "nu", ξ: "xi", π: "pi", ρ: "rho", σ: "sigma", τ: "tau", φ: "varphi", χ: "chi", ψ: "psi", ω: "omega", Γ: "Gamma", Δ: "Delta", Θ: "Theta", Λ: "Lambda", Σ: "Sigma", Φ: "Phi", Ψ: "Psi", Ω: "Omega",
}; // prettier-ignore
const SIGNS: Record<string, string> = {
  "−": "$-$",
  "±": "$\\pm$",
  "×": "$\\times$",
  "·": "$\\cdot$",
  "°": "$^{\\circ}$",
  "≤": "$\\le$",
  "≥": "$\\ge$",
  "√": "$\\surd$",
  "–": "--",
  "…": "\\dots{}",
  "\u2009": "\\,",
  "\u202f": "\\,",
  "\u00a0": "~",
};
const MARKED: Record<string, string> = { "\\": "\\textbackslash{}", "~": "\\textasciitilde{}", "^": "\\textasciicircum{}" };

/** Cells as a table of LaTeX, the first row its heading; it needs no package. */
export function latexTable(rows: string[][]): string {
  const [head, ...body] = rows.map((cells) => `${cells.map(latexText).join(" & ")} \\\\`);
  const columns = "l".repeat(rows[0]?.length ?? 0);
  return ["\\begin{tabular}{" + columns + "}", "\\hline", head, "\\hline", ...body, "\\hline", "\\end{tabular}"].join("\n");
}

/** A text in which everything that LaTeX would take for a command stands for itself. */
export function latexText(text: string): string {
  let written = "";
  for (const letter of text) {
    const raised = RAISED.indexOf(letter);
    if (raised >= 0) written += `$^{${PLAIN[raised]}}$`;
    else if (GREEK[letter]) written += `$\\${GREEK[letter]}$`;
    else written += SIGNS[letter] ?? MARKED[letter] ?? (/[%&#_${}]/.test(letter) ? `\\${letter}` : letter);
  }
  // What follows one another belongs into one formula: 10⁻³.
  return written.replace(/\}\$\$\^\{/g, "");
}
