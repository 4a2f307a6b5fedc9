//! `rovnek`: see `rovnek --help`.

fn main() -> std::process::ExitCode {
    rovnek_server::cli::main()
}
