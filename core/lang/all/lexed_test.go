package all_test

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
)

// lexed are texts with the outline that token rules find in them: kind, name,
// lines, each after its owners' dots.
var lexed = map[string]struct{ text, want string }{
	"a.hs": {`module Marsh.Gauge (read) where
import qualified Data.Map as M
-- | How high.
data Level = Low | High
  deriving Show
data Gauge = Gauge
  { name :: String
  , level :: Int
  }
newtype Id = Id Int
class Readable a where
  readOne :: a -> Int
instance Readable Gauge where
  readOne = level
-- f :: not one
read :: Gauge -> Int
read g = level g
`, "module Marsh.Gauge 1-1; type Level 4-5; type Gauge 6-9; .field name 7-7; .field level 8-8; type Id 10-10; interface Readable 11-12; .method readOne 12-12; object Readable Gauge 13-14; function read 16-16; import Data.Map"},
	"a.vb": {`Imports System.Text
Namespace Marsh
    ' Reads a gauge.
    Public Class Gauge
        Private level As Integer
        Public Property Name As String
        Public Sub New()
        End Sub
        Private Shared Function Read(n As Integer) As Integer
            Return n ' Sub NotOne
        End Function
    End Class
    Public Enum Sea
        Calm
    End Enum
End Namespace
`, "namespace Marsh 2-16; .class Gauge 4-12; ..field level 5-5; ..property Name 6-6; ..method New 7-8; ..method Read 9-11; .enum Sea 13-15; ..enumMember Calm 14-14; import System.Text"},
	"a.pl": {`package Marsh::Gauge;
use strict;
use Marsh::Link;
our $VERSION = 1;
# Reads.
sub read {
    my ($n) = @_;
    return "sub not_one {";
}
sub _own { 1 }
package Marsh::Other;
sub far { }
`, "package Marsh::Gauge 1-10; .variable VERSION 4-4; .function read 6-9; .function _own 10-10; package Marsh::Other 11-12; .function far 12-12; import Marsh::Link"},
	"a.ex": {`defmodule Marsh.Gauge do
  alias Marsh.Link
  @limit 3
  defstruct [:name]
  @type t :: integer
  # Reads.
  def read(n) do
    n
  end
  defp own?(n), do: n
  defmacro sample(x) do
    x
  end
end
`, "module Marsh.Gauge 1-14; .constant limit 3-3; .struct defstruct 4-4; .type t 5-5; .function read 7-9; .function own? 10-10; .macro sample 11-13; import Marsh.Link"},
	"a.swift": {`import Foundation
public class Gauge: Base {
    private var level: Int = 0
    static let limit = 3
    public init(level: Int) {
        self.level = level
    }
    public func read(at n: Int) -> Int {
        let inside = 1
        return n + inside
    }
    enum Sea {
        case calm
    }
}
protocol Readable {
    func read()
}
extension Gauge {
    func more() {}
}
`, "class Gauge 2-15; .property level 3-3; .property limit 4-4; .constructor init 5-7; .function read 8-11; .enum Sea 12-14; ..enumMember calm 13-13; interface Readable 16-18; .function read 17-17; object Gauge 19-21; .function more 20-20; import Foundation"},
	"a.md":     {"# Top\n\ntext # not one\n\n## Second\n\nmore\n\n```\ncode\n```\n\n## Third\n\nUnder\n=====\n\nlast\n", "section Top 1-13; .section Second 5-11; .section Third 13-13; section Under 15-18"},
	"a.rst":    {"Top\n===\n\ntext\n\nSecond\n------\n\nmore\n", "section Top 1-9; .section Second 6-9"},
	"Makefile": {"include rules.mk\nCC := gcc\n.PHONY: all\nall: build test\n\t@echo all\n\nbuild: main.o\n\t$(CC) -o $@\ndefine block\nx\nendef\n", "variable CC 2-2; function all 4-5; function build 7-8; macro block 9-9; import rules.mk"},
	"a.yaml":   {"# top\nname: x\nservices:\n  gauge:\n    image: y\n  other: z\n", "key name 2-2; key services 3-6; .key gauge 4-4; .key other 6-6"},
	"a.R":      {"library(stats)\n# Reads.\nread <- function(n) {\n  n\n}\nlimit <- 3\n", "function read 3-5; variable limit 6-6; import stats"},
	"a.ps1":    {"function Read-Gauge {\n  param($n)\n}\nclass Sea {\n}\n$limit = 3\n", "function Read-Gauge 1-3; class Sea 4-5; variable limit 6-6"},
	"a.sql":    {"-- One row a gauge.\nCREATE TABLE gauge (\n  id bigint,\n  \"as at\" text\n);\nSELECT 'CREATE TABLE no (';\n", "class gauge 2-5; .field id 3-3"},
}

func TestTokenRulesFindOutlines(t *testing.T) {
	for path, c := range lexed {
		t.Run(path, func(t *testing.T) {
			l := all.OfPath(path)
			require.NotNil(t, l)
			r, err := l.Read(context.Background(), []byte(c.text))
			require.NoError(t, err)
			assert.Equal(t, lang.Lexed, r.Depth)
			sound(t, []byte(c.text), r)
			var got []string
			for _, s := range r.Outline {
				depth := 0
				for p := s.Parent; p >= 0; p = r.Outline[p].Parent {
					depth++
				}
				got = append(got, fmt.Sprintf("%s%s %s %d-%d", strings.Repeat(".", depth), s.Kind, s.Name, s.Start, s.End))
			}
			for _, i := range r.Imports {
				got = append(got, "import "+i.Text)
			}
			assert.Equal(t, strings.Split(c.want, "; "), got)
		})
	}
}

func TestTokenRulesAreOfLanguagesThatThereAre(t *testing.T) {
	with := 0
	for _, l := range all.Languages() {
		if l.Lines != nil {
			with++
			for _, r := range l.Lines.Rules {
				assert.GreaterOrEqual(t, r.Pattern.SubexpIndex("name"), 0, "%s: %s", l.Name, r.Pattern)
			}
		}
	}
	assert.Equal(t, all.Outlined(), with, "rules of a language that is not listed")
}
