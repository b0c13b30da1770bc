interface Key {
  word: string;
  /** Read by a screen reader. */
  said: string;
  press: () => void;
}

interface Props {
  /** Whether clock readings are typed as well. */
  clock: boolean;
  /** Writes a sign into the field. */
  onSign: (text: string) => void;
  more: Key[];
}

const SIGNS = [
  { sign: "-", word: "−", said: "minus" },
  { sign: "e", word: "e", said: "times ten to the power of" },
  { sign: ".", word: ".", said: "decimal point" },
  { sign: ":", word: ":", said: "colon" },
];

/** Keys that a number keyboard lacks, beside it on a touch screen; they leave the focus where it is. */
export function NumberStrip({ clock, onSign, more }: Props) {
  const signs: Key[] = SIGNS.filter(({ sign }) => clock || sign !== ":").map(({ sign, ...key }) => ({ ...key, press: () => onSign(sign) }));
  return (
    <div
      role="group"
      aria-label="Keys for numbers"
      className="hidden gap-1 pointer-coarse:flex"
      onPointerDown={(event) => event.preventDefault()}
    >
      {[...signs, ...more].map(({ word, said, press }) => (
        <button
          key={said}
          type="button"
          tabIndex={-1}
          aria-label={said}
          className="numerals h-10 grow touch-manipulation rounded-(--radius) border border-rule bg-sheet text-lead active:bg-block"
          onClick={press}
        >
          {word}
        </button>
      ))}
    </div>
  );
}
