package main

import (
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
)

// opposite operators.
var opposite = map[token.Token]string{
	token.LSS: "<=", token.LEQ: "<", token.GTR: ">=", token.GEQ: ">", token.EQL: "!=", token.NEQ: "==",
	token.LAND: "||", token.LOR: "&&", token.ADD: "-", token.SUB: "+", token.MUL: "/", token.QUO: "*",
}

// verdicts are exchanged for each other in the rows of a table.
var verdicts = map[string]string{"DoNow": "Hold", "Schedule": "DoNow", "CheckFirst": "DoNow", "Hold": "DoNow", "Avoid": "DoNow"}

type changer struct {
	pkg, file string
	source    []byte
	set       *token.FileSet
	out       []mutant
}

// mutantsOf lists every change of a package's files.
func mutantsOf(pkg string) (out []mutant, err error) {
	files, err := filepath.Glob(filepath.Join(pkg, "*.go"))
	if err != nil {
		return nil, err
	}
	for _, f := range files {
		if strings.HasSuffix(f, "_test.go") {
			continue
		}
		path, err := filepath.Abs(f)
		if err != nil {
			return nil, err
		}
		source, err := os.ReadFile(path)
		if err != nil {
			return nil, err
		}
		c := changer{pkg: pkg, file: path, source: source, set: token.NewFileSet()}
		tree, err := parser.ParseFile(c.set, path, source, 0)
		if err != nil {
			return nil, err
		}
		for _, d := range tree.Decls {
			if g, ok := d.(*ast.GenDecl); ok && g.Tok == token.IMPORT {
				continue
			}
			ast.Inspect(d, c.visit)
		}
		out = append(out, c.out...)
	}
	return out, nil
}

func (c *changer) add(what string, from, to token.Pos, text string) {
	a, b := c.set.Position(from).Offset, c.set.Position(to).Offset
	c.out = append(c.out, mutant{pkg: c.pkg, file: c.file, from: a, to: b, text: text, what: what, line: c.set.Position(from).Line,
		before: string(c.source[a:b])})
}

func (c *changer) text(n ast.Node) string {
	return string(c.source[c.set.Position(n.Pos()).Offset:c.set.Position(n.End()).Offset])
}

func (c *changer) visit(n ast.Node) bool {
	switch x := n.(type) {
	case *ast.BinaryExpr:
		if to, ok := opposite[x.Op]; ok && !c.isText(x) {
			c.add("operator", x.OpPos, x.OpPos+token.Pos(len(x.Op.String())), to)
		}
	case *ast.IfStmt:
		c.add("condition", x.Cond.Pos(), x.Cond.End(), "!("+c.text(x.Cond)+")")
	case *ast.BasicLit:
		c.literal(x)
	case *ast.CompositeLit:
		c.rows(x)
	case *ast.Ident:
		if to, ok := verdicts[x.Name]; ok {
			c.add("verdict", x.Pos(), x.End(), to)
		}
	case *ast.CallExpr:
		if id, ok := x.Fun.(*ast.SelectorExpr); ok && (id.Sel.Name == "Errorf" || id.Sel.Name == "Sprintf") {
			return false // wording is not what is asked
		}
	}
	return true
}

func (c *changer) isText(x *ast.BinaryExpr) bool {
	return x.Op == token.ADD && (strings.Contains(c.text(x.X), `"`) || strings.Contains(c.text(x.Y), `"`))
}

func (c *changer) literal(x *ast.BasicLit) {
	switch x.Kind {
	case token.INT, token.FLOAT:
		if v, err := strconv.ParseFloat(x.Value, 64); err == nil {
			c.add("number", x.Pos(), x.End(), moved(v, x.Kind == token.INT))
		}
	case token.STRING:
		if s, err := strconv.Unquote(x.Value); err == nil {
			for _, to := range conditions(s) {
				c.add("row's condition", x.Pos(), x.End(), strconv.Quote(to))
			}
		}
	}
}

func moved(v float64, whole bool) string {
	if whole {
		return strconv.Itoa(int(v) + 1 + int(v)/4)
	}
	if v == 0 {
		return ".5"
	}
	return strconv.FormatFloat(v*1.3, 'g', 4, 64)
}

// expression tells a condition written in a row from words.
var (
	expression = regexp.MustCompile(`^[a-z0-9(). <>=+|_:{}-]*( (and|or) |without |[<>]=? | = )[a-z0-9(). <>=+|_:{}-]*$`)
	figure     = regexp.MustCompile(`(^|[ (])-?[0-9]*\.?[0-9]+`)
	joined     = regexp.MustCompile(` and (without )?[a-z0-9()-]+( [<>=]+ [a-z0-9.-]+)?`)
)

// conditions are the ways in which a condition in a row can be changed: a part left out, a figure moved, a comparison turned.
func conditions(s string) (out []string) {
	if !expression.MatchString(s) {
		return nil
	}
	for _, at := range joined.FindAllStringIndex(s, -1) {
		if strings.Count(s[at[0]:at[1]], "(") == strings.Count(s[at[0]:at[1]], ")") {
			out = append(out, s[:at[0]]+s[at[1]:])
		}
	}
	for _, at := range figure.FindAllStringIndex(s, -1) {
		word := s[at[0]:at[1]]
		lead := len(word) - len(strings.TrimLeft(word, " ("))
		if v, err := strconv.ParseFloat(word[lead:], 64); err == nil {
			out = append(out, s[:at[0]]+word[:lead]+strconv.FormatFloat(v*1.3+.1, 'g', 4, 64)+s[at[1]:])
		}
	}
	for from, to := range map[string]string{" >= ": " <= ", " < ": " > ", " <= ": " >= ", " > ": " < "} {
		if strings.Contains(s, from) {
			out = append(out, strings.Replace(s, from, to, 1))
		}
	}
	return out
}

// rows leaves out one element of a table.
func (c *changer) rows(x *ast.CompositeLit) {
	if len(x.Elts) < 5 {
		return
	}
	for i, e := range x.Elts {
		end := e.End()
		if i+1 < len(x.Elts) {
			end = x.Elts[i+1].Pos()
		} else if c.source[c.set.Position(end).Offset] == ',' {
			end++
		}
		if c.set.Position(e.Pos()).Line != c.set.Position(x.Pos()).Line {
			c.add("row", e.Pos(), end, "")
		}
	}
}
