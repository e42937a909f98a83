import com.sun.source.tree.*;
import com.sun.source.util.*;
import java.io.*;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.*;
import java.util.*;
import javax.tools.*;

/**
 * Prints, for each file named on standard input, what javac's tree API says of
 * it: one JSON object a line (see oracle.go). Comments are not in the tree.
 */
public class Outline {
    public static void main(String[] args) throws Exception {
        JavaCompiler compiler = ToolProvider.getSystemJavaCompiler();
        PrintStream out = new PrintStream(new FileOutputStream(FileDescriptor.out), false, "UTF-8");
        for (String path : new String(System.in.readAllBytes(), StandardCharsets.UTF_8).split("\n")) {
            if (path.isEmpty()) continue;
            String text = Files.readString(Path.of(path), StandardCharsets.ISO_8859_1);
            var source = new SimpleJavaFileObject(URI.create("string:///" + "X.java"), JavaFileObject.Kind.SOURCE) {
                @Override public CharSequence getCharContent(boolean ignore) { return text; }
            };
            var problems = new DiagnosticCollector<JavaFileObject>();
            JavacTask task = (JavacTask) compiler.getTask(Writer.nullWriter(), null, problems, List.of("-proc:none", "--enable-preview", "--release", "17"), null, List.of(source));
            CompilationUnitTree unit = task.parse().iterator().next();
            boolean bad = problems.getDiagnostics().stream().anyMatch(d -> d.getKind() == Diagnostic.Kind.ERROR);
            if (bad) {
                out.println("{\"path\":" + quote(path) + ",\"skip\":\"parse error\"}");
                continue;
            }
            new Outline(unit, Trees.instance(task).getSourcePositions(), text).print(path, out);
        }
        out.flush();
    }

    private final CompilationUnitTree unit;
    private final SourcePositions positions;
    private final String text;
    private final List<String> symbols = new ArrayList<>();
    private final List<String> imports = new ArrayList<>();

    private Outline(CompilationUnitTree unit, SourcePositions positions, String text) {
        this.unit = unit;
        this.positions = positions;
        this.text = text;
    }

    private void print(String path, PrintStream out) {
        for (ImportTree i : unit.getImports()) {
            imports.add("[" + quote(i.getQualifiedIdentifier().toString()) + "," + line(positions.getStartPosition(unit, i)) + "]");
        }
        for (Tree t : unit.getTypeDecls()) {
            if (t instanceof ClassTree c) type("top", c);
        }
        if (unit.getModule() != null) {
            symbols.add("[\"top\"," + quote(unit.getModule().getName().toString()) + "," + nameLine(unit.getModule(), unit.getModule().getName().toString()) + "]");
        }
        out.println("{\"path\":" + quote(path) + ",\"symbols\":[" + String.join(",", symbols) + "],\"imports\":[" + String.join(",", imports) + "]}");
    }

    private void type(String level, ClassTree c) {
        add(level, c.getSimpleName().toString(), c);
        for (Tree m : c.getMembers()) {
            if (m instanceof ClassTree inner) {
                type("member", inner);
            } else if (m instanceof VariableTree v) {
                add("member", v.getName().toString(), v);
            } else if (m instanceof MethodTree f) {
                boolean made = positions.getEndPosition(unit, f) < 0 || (f.getName().contentEquals("<init>") && positions.getStartPosition(unit, f) == positions.getStartPosition(unit, c));
                String name = f.getName().contentEquals("<init>") ? c.getSimpleName().toString() : f.getName().toString();
                if (!made) add("member", name, f);
            }
        }
    }

    private void add(String level, String name, Tree t) {
        symbols.add("[" + quote(level) + "," + quote(name) + "," + nameLine(t, name) + "]");
    }

    /** The line of a declaration's name: the first time it stands as a word after the modifiers and the type. */
    private long nameLine(Tree t, String name) {
        long from = positions.getStartPosition(unit, t);
        ModifiersTree mods = t instanceof ClassTree c ? c.getModifiers() : t instanceof MethodTree m ? m.getModifiers() : t instanceof VariableTree v ? v.getModifiers() : null;
        if (mods != null) from = Math.max(from, positions.getEndPosition(unit, mods));
        Tree before = t instanceof MethodTree m ? m.getReturnType() : t instanceof VariableTree v ? v.getType() : null;
        if (before != null) {
            long end = positions.getEndPosition(unit, before);
            long at = positions.getStartPosition(unit, before);
            if (end > from && at >= from) from = end;
        }
        if (t instanceof MethodTree m) {
            for (Tree p : m.getTypeParameters()) {
                long end = positions.getEndPosition(unit, p);
                if (m.getReturnType() == null && end > from) from = end;
            }
        }
        int at = (int) from;
        while (true) {
            at = text.indexOf(name, at);
            if (at < 0) return line(from);
            boolean left = at == 0 || !Character.isJavaIdentifierPart(text.charAt(at - 1));
            int end = at + name.length();
            boolean right = end >= text.length() || !Character.isJavaIdentifierPart(text.charAt(end));
            if (left && right && !inComment((int) from, at)) return line(at);
            at = end;
        }
    }

    private boolean inComment(int from, int at) {
        String before = text.substring(from, at);
        if (before.lastIndexOf("/*") > before.lastIndexOf("*/")) return true;
        return before.lastIndexOf("//") > before.lastIndexOf('\n');
    }

    private long line(long position) {
        return unit.getLineMap().getLineNumber(Math.max(position, 0));
    }

    private static String quote(String s) {
        return "\"" + new String(s.getBytes(StandardCharsets.ISO_8859_1), StandardCharsets.UTF_8).replace("\\", "\\\\").replace("\"", "\\\"") + "\"";
    }
}
