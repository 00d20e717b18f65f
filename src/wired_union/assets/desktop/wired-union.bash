# Made by script/docs from the commands; do not edit.
_wired_union() {
  local word="${COMP_WORDS[COMP_CWORD]}" options=''
  COMPREPLY=()
  if [ "$COMP_CWORD" -eq 1 ]; then
    COMPREPLY=($(compgen -W 'best candidates check check-parts concepts demo diff everything merge open parts places plan ready report ripple schema screenshots setup-desktop setup-git states take-places verify wiring work --version --help' -- "$word"))
    return
  fi
  case "${COMP_WORDS[1]}" in
    best) options='--favour --json --help' ;;
    candidates) options='--json --help' ;;
    check) options='--json --help' ;;
    check-parts) options=' --help' ;;
    concepts) options='--json --help' ;;
    demo) options=' --help' ;;
    diff) options='--json --help' ;;
    everything) options='-o --output --help' ;;
    merge) options='-o --output --take --choose --first --json --help' ;;
    open) options=' --help' ;;
    parts) options='-o --output --help' ;;
    places) options='-o --output --help' ;;
    plan) options='--output -o --who --help' ;;
    ready) options='--json --help' ;;
    report) options='-o --output --for --without --help' ;;
    ripple) options='--json --help' ;;
    schema) options=' --help' ;;
    screenshots) options=' --help' ;;
    setup-desktop) options='--remove --help' ;;
    setup-git) options='--write --help' ;;
    states) options='--output -o --help' ;;
    take-places) options='-o --output --help' ;;
    verify) options='--json --help' ;;
    wiring) options='--output -o --what --board --help' ;;
    work) options='--json --help' ;;
  esac
  case "$word" in
    -*) COMPREPLY=($(compgen -W "$options" -- "$word")) ;;
    *) compopt -o filenames; COMPREPLY=($(compgen -f -- "$word")) ;;
  esac
}
complete -F _wired_union wired-union
