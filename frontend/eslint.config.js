import a11y from "eslint-plugin-jsx-a11y";
import hooks from "eslint-plugin-react-hooks";
import ts from "typescript-eslint";

export default ts.config(
  { ignores: ["src/api/schema.d.ts"] },
  ...ts.configs.recommended,
  a11y.flatConfigs.recommended,
  {
    plugins: { "react-hooks": hooks },
    rules: {
      ...hooks.configs.recommended.rules,
      "@typescript-eslint/consistent-type-imports": "error",
      // What scrolls is reached by keys: a region with a name of its own.
      "jsx-a11y/no-noninteractive-tabindex": ["error", { roles: ["region", "tabpanel"], tags: [] }],
    },
  },
  {
    // Paths and keys are known to api/ alone: everybody else takes an option, a command or an address by its name.
    files: ["src/**/*.{ts,tsx}"],
    ignores: ["src/api/**", "src/**/*.test.{ts,tsx}"],
    rules: {
      "no-restricted-imports": [
        "error",
        { patterns: [{ group: ["**/api/client"], importNames: ["get", "post", "put", "del"], message: "Use commands or options of api/." }] },
      ],
      "no-restricted-syntax": [
        "error",
        { selector: "Literal[value=/^\\u002Fapi\\u002F/]", message: "Addresses stand in api/commands (hrefs)." },
        { selector: "TemplateElement[value.raw=/^\\u002Fapi\\u002F/]", message: "Addresses stand in api/commands (hrefs)." },
        { selector: "Property[key.name='queryKey']", message: "Keys stand in api/options." },
        { selector: "JSXAttribute[name.name='type'][value.value='checkbox']", message: "Use ui/Tick." },
        { selector: "Literal[value=/text-\\[\\d+px\\]/]", message: "Use a size of the type scale (index.css)." },
        { selector: "TemplateElement[value.raw=/text-\\[\\d+px\\]/]", message: "Use a size of the type scale (index.css)." },
      ],
    },
  },
);
