# complete.zsh FOLDER TYPED: prints what TYPED becomes in a terminal when Tab is pressed behind it, with the completions of FOLDER.
zmodload zsh/zpty
zpty shell zsh -f -i
zpty -w shell "stty -echo; PS1= RPS1= PROMPT_EOL_MARK=; fpath=($1 \$fpath); autoload -U compinit; compinit -D -u
show() { print -r -- \"<\$BUFFER>\"; exit }; zle -N show; bindkey '^X' show; zstyle ':completion:*' list no; print rea''dy"
zpty -r shell reply '*ready*'
zpty -w -n shell "$2"$'\t'$'\x18'
zpty -r shell reply '*<*>*'
print -r -- "${${reply##*<}%%>*}"
zpty -d shell
