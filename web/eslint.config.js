import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["dist", "src/api/schema.d.ts"] },
  ...tseslint.configs.recommendedTypeChecked,
  { languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } } },
  hooks.configs.flat["recommended-latest"] ?? hooks.configs.flat.recommended,
  // Mocks of a test answer without waiting.
  { files: ["**/*.test.ts"], rules: { "@typescript-eslint/require-await": "off" } },
);
