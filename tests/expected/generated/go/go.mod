module harbour.example/harbour

go 1.22
