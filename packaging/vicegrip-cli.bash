# Completion of vicegrip-cli: its commands and each one's options, as the program itself lists them.
_vicegrip_cli()
{
    local word=${COMP_WORDS[COMP_CWORD]} command=${COMP_WORDS[1]}
    if [[ $COMP_CWORD -eq 1 ]]; then
        COMPREPLY=($(compgen -W "$(vicegrip-cli --help | sed -n '/^Subcommands:/,/^$/s/^  \([a-z]*\) .*/\1/p') --help --version" -- "$word"))
    elif [[ ${COMP_WORDS[COMP_CWORD - 1]} == --units ]]; then
        COMPREPLY=($(compgen -W "metric us" -- "$word"))
    elif [[ $word == -* ]]; then
        COMPREPLY=($(compgen -W "$(vicegrip-cli "$command" --help | grep -o -- '--[a-z][a-z-]*' | sort -u) --units" -- "$word"))
    else
        COMPREPLY=($(compgen -f -- "$word"))
    fi
}
complete -o filenames -F _vicegrip_cli vicegrip-cli
