// What the browser's Python would compile at each start, compiled once: node tools/bytecode.mjs PYODIDE IN.zip OUT.zip [LEVEL]
import { readFileSync, writeFileSync } from "node:fs";
import { resolve } from "node:path";
import { pathToFileURL } from "node:url";

const [pyodide, from, to, level = "0"] = process.argv.slice(2);
const { loadPyodide } = await import(pathToFileURL(resolve(pyodide, "pyodide.mjs")).href);
const python = await loadPyodide({ indexURL: resolve(pyodide) });
python.FS.writeFile("/in.zip", readFileSync(from));
// Level 2 leaves docstrings and assertions out, as Python's own -OO does.
python.globals.set("level", Number(level));
// Stored, not deflated: the server compresses it on the way, and the browser need not unpack it at each start.
python.runPython(`
import ast
import importlib.util
import marshal
import zipfile

HASHED_UNCHECKED = (1).to_bytes(4, "little")
with zipfile.ZipFile("/in.zip") as source, zipfile.ZipFile("/out.zip", "w", zipfile.ZIP_STORED) as target:
    for entry in source.infolist():
        data = source.read(entry)
        name = entry.filename
        if name.endswith(".py"):
            tree = ast.parse(data, name)
            for node in ast.walk(tree):
                # Nobody reads there what a function says of itself. Without a class's own a dataclass would make one.
                if isinstance(node, ast.Module | ast.FunctionDef | ast.AsyncFunctionDef) and ast.get_docstring(node, False):
                    node.body = node.body[1:] or [ast.Pass(lineno=1, col_offset=0, end_lineno=1, end_col_offset=0)]
            code = compile(tree, name, "exec", dont_inherit=True, optimize=level)
            data = importlib.util.MAGIC_NUMBER + HASHED_UNCHECKED + importlib.util.source_hash(data) + marshal.dumps(code)
            name += "c"
        target.writestr(zipfile.ZipInfo(name, (1980, 1, 1, 0, 0, 0)), data)
`);
writeFileSync(to, python.FS.readFile("/out.zip"));
