
# What the project at hand adds: names of environments, numbers of rungs, names of tables. They are
# read from its files, so that no database is asked and no program is started.

# The folder of the project: the one that --project names, or the nearest that has a ladder.yaml.
function _ladder_project() {
  local index folder=$PWD
  for ((index = 1; index < ${#COMP_WORDS[@]} - 1; index++)); do
    if [[ ${COMP_WORDS[index]} == --project ]]; then
      echo "${COMP_WORDS[index + 1]}"
      return
    fi
  done
  while [[ ! -f $folder/ladder.yaml ]]; do
    [[ $folder == / || -z $folder ]] && return 1
    folder=$(dirname "$folder")
  done
  echo "$folder"
}

# The keys below environments:, by the first one's indentation.
function _ladder_environments() {
  awk '/^environments:/ { inside = 1; next }
    /^[^ #]/ { inside = 0 }
    inside && match($0, /^ +[^ #:]+:/) {
      match($0, /^ +/); if (!width) width = RLENGTH
      if (RLENGTH == width) { sub(/^ +/, ""); sub(/:.*/, ""); gsub(/["\047]/, ""); print }
    }' "$1/ladder.yaml" 2>/dev/null
}

function _ladder_rungs() {
  ls "$1/rungs" 2>/dev/null | sed -n 's/^\([0-9][0-9]*\)-.*\.sql$/\1/p'
}

# Tables that rungs create, and those that seeds name.
function _ladder_tables() {
  {
    cat "$1"/rungs/*.sql 2>/dev/null |
      sed -n 's/.*[Cc][Rr][Ee][Aa][Tt][Ee] [Tt][Aa][Bb][Ll][Ee] \([Ii][Ff] [Nn][Oo][Tt] [Ee][Xx][Ii][Ss][Tt][Ss] \)\{0,1\}["`]\{0,1\}\([A-Za-z_0-9.]*\).*/\2/p'
    sed -n 's/.*table: *["\047]\{0,1\}\([A-Za-z_0-9.]*\).*/\1/p' "$1/ladder.yaml" 2>/dev/null
  } | sort -u
}

# What may stand at the place of the word that is written.
function _ladder_words() {
  local project command=${COMP_WORDS[1]} before=${COMP_WORDS[COMP_CWORD - 1]}
  project=$(_ladder_project) || return
  case $before in
    --to | --take-back) _ladder_rungs "$project" ;;
    --confirm) _ladder_environments "$project" ;;
    --only | --pull | --sample | --table) _ladder_tables "$project" ;;
    --against) [[ $command == check ]] && _ladder_environments "$project" ;;
    --rows) [[ $command == adopt ]] && _ladder_tables "$project" ;;
    -*) ;;
    compare) _ladder_environments "$project" | sed 's/^/env:/' ;;
    "$command")
      case $command in
        init | demo | new | check | renumber | fold) ;;
        *) _ladder_environments "$project" ;;
      esac
      ;;
    *) [[ $command == settle && $COMP_CWORD == 3 ]] && _ladder_rungs "$project" ;;
  esac
}

function _ladder_complete() {
  _complete_ladder "$@"
  local word=${COMP_WORDS[COMP_CWORD]} first="" more
  # In a list the last name is the one that is written.
  [[ $word == *,* ]] && first=${word%,*},
  [[ $COMP_CWORD -gt 1 && $word != -* ]] || return 0
  for more in $(_ladder_words | sort -u); do
    [[ $first$more == "$word"* ]] && COMPREPLY+=("$first$more")
  done
  return 0
}

complete -F _ladder_complete -o default ladder
