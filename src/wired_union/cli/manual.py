"""The manual page and the completions of shells, made from the commands themselves."""

from collections.abc import Iterator
from typing import Any

import typer
from msgspec import Struct

from wired_union import __version__

HEAD = r""".\" Made by script/docs from the commands; do not edit.
.TH WIRED\-UNION 1 "" "Wired Union {version}" "User Commands"
.SH NAME
wired\-union \- shows what an edit does to every limit of a machine before it is made
.SH SYNOPSIS
.B wired\-union
.RI [ command ]
.RI [ arguments ]
.SH DESCRIPTION
Without a command the window opens. Each command does for scripts what the window does for hands. A file is a
.I *.union.json
project;
.B demo
stands for the Mudlark that ships with the program.
.SH COMMANDS
"""
TAIL = r""".SH EXIT STATUS
0 where all is well, 1 where something breaks, differs or is open, 2 where something cannot be read or written.
.SH ENVIRONMENT
.TP
.B WIRED_UNION_DETAILS
Set to anything, an error shows where in the program it happened.
.SH FILES
.TP
.I *.union.json
a project; beside it
.I *.union.kept
with its pictures and versions, and
.I *.before
as it was before it was last saved
.TP
.I ~/.config/wired-union/settings.json
.TP
.I ~/.local/state/wired-union/recovery
unsaved work that survives a kill
.SH SEE ALSO
The documentation that ships with the program: docs/methods.md holds every formula with its source.
"""


class Option(Struct, frozen=True):
    """One option of a command, or one of its arguments."""

    names: tuple[str, ...]
    about: str
    takes: bool


class Command(Struct, frozen=True):
    """A command as scripts call it."""

    name: str
    about: str
    arguments: tuple[Option, ...]
    options: tuple[Option, ...]


def commands(app: typer.Typer) -> tuple[Command, ...]:
    """Every command that is not hidden, by its name."""
    found: Any = typer.main.get_command(app)
    return tuple(_command(name, c) for name, c in sorted(found.commands.items()) if not c.hidden)


def _command(name: str, command: Any) -> Command:
    shown = [p for p in command.params if not getattr(p, "hidden", False)]
    both = {"argument": [p for p in shown if p.param_type_name == "argument"],
            "option": [p for p in shown if p.param_type_name == "option"]}  # fmt: skip
    arguments, options = (
        tuple(Option(tuple(p.opts), getattr(p, "help", None) or "", not getattr(p, "is_flag", False)) for p in both[k])
        for k in ("argument", "option")
    )
    return Command(name, (command.help or "").strip(), arguments, options)


def man_page(app: typer.Typer) -> str:
    """The manual page in the troff that man reads."""
    return HEAD.format(version=__version__) + "".join(_entry(c) for c in commands(app)) + TAIL


def _entry(command: Command) -> str:
    words = " ".join(f"\\fI{_roff(a.names[0])}\\fR" for a in command.arguments)
    lines = [".TP", f"\\fB{_roff(command.name)}\\fR {words}".rstrip(), _roff(" ".join(command.about.split()))]
    for option in command.options:
        names = ", ".join(f"\\fB{_roff(n)}\\fR" for n in option.names)
        lines += [".br", f"{names}: {_roff(option.about)}".rstrip(": ")]
    return "\n".join(lines) + "\n"


def _roff(text: str) -> str:
    """A text that troff takes for itself."""
    safe = text.replace("\\", "\\e").replace("-", "\\-")
    return f"\\&{safe}" if safe[:1] in (".", "'") else safe


def bash_completion(app: typer.Typer) -> str:
    """Commands, then options of a command and files."""
    found = commands(app)
    cases = "\n".join(
        f"    {c.name}) options='{' '.join(n for o in c.options for n in o.names)} --help' ;;" for c in found
    )
    names = " ".join(c.name for c in found)
    return f"""# Made by script/docs from the commands; do not edit.
_wired_union() {{
  local word="${{COMP_WORDS[COMP_CWORD]}}" options=''
  COMPREPLY=()
  if [ "$COMP_CWORD" -eq 1 ]; then
    COMPREPLY=($(compgen -W '{names} --version --help' -- "$word"))
    return
  fi
  case "${{COMP_WORDS[1]}}" in
{cases}
  esac
  case "$word" in
    -*) COMPREPLY=($(compgen -W "$options" -- "$word")) ;;
    *) compopt -o filenames; COMPREPLY=($(compgen -f -- "$word")) ;;
  esac
}}
complete -F _wired_union wired-union
"""


def zsh_completion(app: typer.Typer) -> str:
    """The same for zsh."""
    found = commands(app)
    listed = "\n".join(f"    '{c.name}:{_quiet(c.about)}'" for c in found)
    cases = "\n".join(f"    {c.name}) _arguments {' '.join(_zsh_options(c))} '*:file:_files' ;;" for c in found)
    return f"""#compdef wired-union
# Made by script/docs from the commands; do not edit.
_wired_union() {{
  local -a commands
  commands=(
{listed}
  )
  if (( CURRENT == 2 )); then
    _describe 'command' commands
    return
  fi
  local chosen="${{words[2]}}"
  shift words
  (( CURRENT-- ))
  case "$chosen" in
{cases}
  esac
}}
_wired_union "$@"
"""


def _zsh_options(command: Command) -> Iterator[str]:
    for option in command.options:
        for name in option.names:
            takes = ":value:_files" if option.takes else ""
            yield f"'{name}[{_quiet(option.about)}]{takes}'"


def fish_completion(app: typer.Typer) -> str:
    """The same for fish."""
    lines = ["# Made by script/docs from the commands; do not edit."]
    for c in commands(app):
        lines.append(f"complete -c wired-union -n __fish_use_subcommand -a {c.name} -d '{_quiet(c.about)}'")
        for option in c.options:
            named = " ".join(f"-l {n[2:]}" if n.startswith("--") else f"-s {n[1:]}" for n in option.names)
            takes = " -r" if option.takes else ""
            seen = f"-n '__fish_seen_subcommand_from {c.name}'"
            lines.append(f"complete -c wired-union {seen} {named}{takes} -d '{_quiet(option.about)}'")
    return "\n".join(lines) + "\n"


def _quiet(text: str) -> str:
    """The first sentence without anything that a shell would read."""
    first = " ".join(text.split()).split(". ")[0]
    return "".join(ch for ch in first if ch not in "'\"`$\\[]:").rstrip(".")


def made_files(app: typer.Typer) -> dict[str, str]:
    """Every file that is made from the commands, by its name among the assets."""
    return {
        "wired-union.1": man_page(app), "wired-union.bash": bash_completion(app), "_wired-union": zsh_completion(app),
        "wired-union.fish": fish_completion(app),
    }  # fmt: skip
