import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import ts from "typescript-eslint";

export default ts.config(
  { ignores: ["dist", "src/api/types.ts"] },
  js.configs.recommended,
  ...ts.configs.recommendedTypeChecked,
  { languageOptions: { parserOptions: { projectService: { allowDefaultProject: ["eslint.config.js"] } } } },
  { files: ["src/**/*.{ts,tsx}"], ...hooks.configs.flat["recommended-latest"] },
  { files: ["eslint.config.js"], ...ts.configs.disableTypeChecked },
);
