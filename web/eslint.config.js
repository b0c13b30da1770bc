import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["dist", "src/api/schema.d.ts"] },
  ...tseslint.configs.recommendedTypeChecked,
  { languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } } },
  hooks.configs.flat["recommended-latest"] ?? hooks.configs.flat.recommended,
  // A component or hook of about one screen height: what is longer has a part with a name of its own.
  { rules: { "max-lines-per-function": ["error", { max: 90, skipBlankLines: true, skipComments: true }] } },
  // What a value is follows from where it comes from; "as const" alone may stay.
  { rules: { "@typescript-eslint/consistent-type-assertions": ["error", { assertionStyle: "never" }] } },
  // Mocks of a test answer without waiting, and hold only what the test needs.
  {
    files: ["**/*.test.ts"],
    rules: { "@typescript-eslint/require-await": "off", "@typescript-eslint/consistent-type-assertions": "off" },
  },
);
